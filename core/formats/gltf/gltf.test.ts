import { Accessor, Document, WebIO } from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
} from '@gltf-transform/extensions'
import draco3d from 'draco3dgltf'
import { MeshoptEncoder } from 'meshoptimizer/encoder'
import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { mainsOf, unpackZip, type GivenFile } from '..'
import { readGltf } from './read'

const OPTIONS = { upAxis: 'z', scale: 1 } as const
const decoders = { draco: async () => draco3d.createDecoderModule() }
const text = (value: unknown) => new TextEncoder().encode(JSON.stringify(value)) as Uint8Array<ArrayBuffer>

type Arrays = Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer> | Uint8Array<ArrayBuffer>
/** A document with a wavy cloth of n × n squares in it, and a way to give it more. */
function cloth(n = 12) {
  const d = new Document()
  const buffer = d.createBuffer()
  const accessor = (type: 'VEC3' | 'VEC4' | 'SCALAR' | 'MAT4', array: Arrays): Accessor =>
    d.createAccessor().setType(type).setArray(array).setBuffer(buffer)
  const places: number[] = []
  const indices: number[] = []
  for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) places.push(i / 2, j / 2, Math.sin(i) * Math.cos(j))
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i
      indices.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1)
    }
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from(places)))
    .setIndices(accessor('SCALAR', Uint16Array.from(indices)))
  const mesh = d.createMesh().addPrimitive(primitive)
  const node = d.createNode('Cloth').setMesh(mesh)
  d.createScene().addChild(node)
  return { d, buffer, accessor, primitive, mesh, node, triangles: indices.length / 3 }
}
const write = async (d: Document, dependencies: Record<string, unknown> = {}) => {
  const io = new WebIO().registerExtensions([
    EXTMeshGPUInstancing,
    EXTMeshoptCompression,
    KHRDracoMeshCompression,
    KHRMeshQuantization,
  ])
  return (await io.registerDependencies(dependencies).writeBinary(d)) as Uint8Array<ArrayBuffer>
}
const read = (bytes: Uint8Array, files: GivenFile[] = []) => readGltf(bytes, OPTIONS, { files, decoders })
const boxOf = async (bytes: Uint8Array) => (await read(bytes)).box

describe('glTF that is packed', () => {
  const plain = async () => read(await write(cloth().d))

  it('with Draco is unpacked to within what its packing kept', async () => {
    const { d, triangles } = cloth()
    d.createExtension(KHRDracoMeshCompression)
      .setRequired(true)
      .setEncoderOptions({
        method: KHRDracoMeshCompression.EncoderMethod.EDGEBREAKER,
        quantizationBits: { POSITION: 14 },
      })
    const bytes = await write(d, { 'draco3d.encoder': await draco3d.createEncoderModule() })
    const { mesh, box } = await read(bytes)
    expect(mesh.indices.length / 3).toBe(triangles)
    const before = (await plain()).box
    for (const k of [0, 1, 2]) {
      expect(box.min[k]).toBeCloseTo(before.min[k], 2)
      expect(box.max[k]).toBeCloseTo(before.max[k], 2)
    }
    await expect(readGltf(bytes, OPTIONS)).rejects.toThrow('is packed with Draco, which is not unpacked here')
  })

  it('with meshopt is unpacked to the same, and a view that unpacks to more than it says is refused', async () => {
    const { d } = cloth()
    await MeshoptEncoder.ready
    d.createExtension(EXTMeshoptCompression)
      .setRequired(true)
      .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE })
    const bytes = await write(d, { 'meshopt.encoder': MeshoptEncoder })
    const { mesh } = await read(bytes)
    const before = (await plain()).mesh
    expect(mesh.indices).toHaveLength(before.indices.length)
    expect(Math.max(...mesh.positions)).toBeCloseTo(Math.max(...before.positions), 5)
    const swollen = changed(bytes, (json) => {
      for (const view of json.bufferViews) view.extensions.EXT_meshopt_compression.count = 90_000_000
    })
    await expect(read(swollen)).rejects.toThrow(/unpacks to (more than it says it holds|[\d,]+ bytes)/)
  })

  it('by quantization stands where it would stand unpacked', async () => {
    const { d, primitive, node, accessor } = cloth()
    d.createExtension(KHRMeshQuantization).setRequired(true)
    const places = primitive.getAttribute('POSITION')!
    const small = new Uint16Array(places.getCount() * 4)
    const v: number[] = []
    for (let k = 0; k < places.getCount(); k++) {
      places.getElement(k, v)
      small.set([v[0] * 100, v[1] * 100, (v[2] + 1) * 100], k * 3)
    }
    primitive.setAttribute('POSITION', accessor('VEC3', small.slice(0, places.getCount() * 3)))
    node.setScale([0.01, 0.01, 0.01]).setTranslation([0, 0, -1])
    const { box } = await read(await write(d))
    const before = (await plain()).box
    for (const k of [0, 1, 2]) expect(box.max[k]).toBeCloseTo(before.max[k], 1)
  })

  it('by values that are nought but for a few has those few', async () => {
    const bytes = changed(await write(cloth(1).d), (json) => {
      const position = json.meshes[0].primitives[0].attributes.POSITION
      // The first vertex alone is moved: its number and its place lie at the end of the data.
      const at = json.buffers[0].byteLength
      json.buffers[0].byteLength += 16
      json.bufferViews.push(
        { buffer: 0, byteOffset: at, byteLength: 2 },
        { buffer: 0, byteOffset: at + 4, byteLength: 12 },
      )
      json.accessors[position].sparse = {
        count: 1,
        indices: { bufferView: json.bufferViews.length - 2, componentType: 5123 },
        values: { bufferView: json.bufferViews.length - 1 },
      }
      return [0, 0, 0, 0, ...new Uint8Array(Float32Array.of(-7, 0, 0).buffer)]
    })
    expect((await boxOf(bytes)).min[0]).toBe(-7)
    const many = changed(bytes, (json) => {
      json.accessors[json.meshes[0].primitives[0].attributes.POSITION].sparse.count = 4
    })
    await expect(read(many)).rejects.toThrow('asks for more sparse values than its bytes hold')
  })
})

/** The JSON of a binary file changed, and bytes put behind its data. */
function changed(
  bytes: Uint8Array,
  change: (json: ReturnType<typeof JSON.parse>) => number[] | void,
): Uint8Array<ArrayBuffer> {
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const length = view.getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)))
  const more = change(json) ?? []
  let head = JSON.stringify(json)
  while (head.length % 4) head += ' '
  const bin = [...bytes.subarray(20 + length + 8), ...more]
  const out = new Uint8Array(20 + head.length + 8 + bin.length)
  const to = new DataView(out.buffer)
  to.setUint32(0, 0x46546c67, true)
  to.setUint32(4, 2, true)
  to.setUint32(8, out.length, true)
  to.setUint32(12, head.length, true)
  to.setUint32(16, 0x4e4f534a, true)
  out.set(new TextEncoder().encode(head), 20)
  to.setUint32(20 + head.length, bin.length, true)
  to.setUint32(24 + head.length, 0x004e4942, true)
  out.set(bin, 28 + head.length)
  return out
}

describe('glTF with more in it than meshes', () => {
  it('shows what is instanced as often as it is, each where it stands', async () => {
    const { d, node, accessor, triangles } = cloth(2)
    const many = d
      .createExtension(EXTMeshGPUInstancing)
      .createInstancedMesh()
      .setAttribute('TRANSLATION', accessor('VEC3', Float32Array.from([0, 0, 0, 380, 0, 0, 0, 50, 5])))
      .setAttribute('SCALE', accessor('VEC3', Float32Array.from([1, 1, 1, 2, 2, 2, 1, 1, 1])))
    node.setExtension('EXT_mesh_gpu_instancing', many).setTranslation([10, 0, 0])
    const { mesh, box } = await read(await write(d))
    expect(mesh.indices.length / 3).toBe(3 * triangles)
    expect([box.min[0], box.max[0], box.max[1]]).toEqual([10, 10 + 380 + 2, 51])
    expect(box.max[2]).toBeCloseTo(5 + Math.sin(2), 2)
  })

  it('refuses more triangles than are read, with all instances counted, before it makes any', async () => {
    const { d, node, accessor } = cloth(20)
    const many = d
      .createExtension(EXTMeshGPUInstancing)
      .createInstancedMesh()
      .setAttribute('TRANSLATION', accessor('VEC3', new Float32Array(3 * 20_000)))
    node.setExtension('EXT_mesh_gpu_instancing', many)
    await expect(read(await write(d))).rejects.toThrow(/come to 16,000,000 triangles/)
  })

  it('stands a skin as it was bound, wherever its node is, and says so', async () => {
    const { d, node, accessor } = cloth(2)
    const bone = d.createNode('Bone').setTranslation([5, 0, 0])
    d.getRoot().listScenes()[0].addChild(bone)
    const bind = Float32Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -3, 0, 0, 1])
    node
      .setSkin(d.createSkin().addJoint(bone).setInverseBindMatrices(accessor('MAT4', bind)))
      .setTranslation([99, 0, 0])
    const { box, repairs } = await read(await write(d))
    expect([box.min[0], box.max[0]]).toEqual([2, 3])
    expect(repairs).toEqual(['1 × a skin on bones: it stands as it was bound to them'])
  })

  it('keeps the shape a mesh is modelled in where it could change, and says so', async () => {
    const { d, primitive, accessor } = cloth(1)
    primitive.addTarget(
      d.createPrimitiveTarget().setAttribute('POSITION', accessor('VEC3', new Float32Array(12).fill(9))),
    )
    const { box, repairs } = await read(await write(d))
    expect(box.max[0]).toBe(0.5)
    expect(repairs.join()).toContain('1 × a mesh that can change its shape')
  })

  it('passes over what concerns looks and names it, and refuses what it would have to know', async () => {
    const looks = changed(await write(cloth(1).d), (json) => {
      json.extensionsUsed = ['KHR_materials_clearcoat', 'KHR_texture_basisu', 'ACME_mood']
      json.extensionsRequired = ['KHR_texture_basisu']
      json.meshes[0].primitives[0].extensions = { KHR_materials_variants: { mappings: [{ material: 3 }] } }
      json.nodes[0].extensions = { KHR_lights_punctual: { light: 8 } }
    })
    expect((await read(looks)).repairs).toEqual([
      'passed over, since no shape depends on it: KHR_materials_clearcoat, KHR_texture_basisu, ACME_mood',
    ])
    const needed = changed(looks, (json) => void (json.extensionsRequired = ['ACME_secret_geometry']))
    await expect(read(needed)).rejects.toThrow('ACME_secret_geometry is needed to read it, and is not known here')
  })

  it.each([
    ['as JSON', () => text({ asset: { version: '1.0' }, meshes: {}, nodes: {} })],
    ['as JSON without saying so', () => text({ meshes: { a: {} }, nodes: {} })],
    [
      'in its binary form',
      () => {
        const bytes = new Uint8Array(24)
        bytes.set(new TextEncoder().encode('glTF'))
        new DataView(bytes.buffer).setUint32(4, 1, true)
        return bytes
      },
    ],
  ])('has a sentence of its own for glTF 1 %s', async (_how, make) => {
    await expect(read(make())).rejects.toThrow(/^is glTF 1, .* save it as glTF 2$/)
  })
})

describe('glTF in several files', () => {
  /** A file with its data in another, and the pictures that came with it. */
  async function apart(uri: string) {
    const { d, buffer } = cloth(3)
    buffer.setURI('cloth data.bin')
    const { json, resources } = await new WebIO().writeJSON(d)
    json.buffers![0].uri = uri
    return { json: text(json), bin: resources['cloth data.bin'] as Uint8Array<ArrayBuffer> }
  }
  it.each([
    ['cloth data.bin', 'cloth data.bin'],
    ['cloth%20data.bin', 'town/cloth data.bin'],
    ['./Parts/cloth%20data.bin', 'town/parts/cloth data.bin'],
    ['parts\\cloth data.bin', 'cloth data.bin'],
  ])('finds “%s” in %s', async (uri, path) => {
    const { json, bin } = await apart(uri)
    const { mesh } = await read(json, [
      { path: 'town/wood.png', bytes: new Uint8Array(4) },
      { path, bytes: bin },
    ])
    expect(mesh.indices.length / 3).toBe(18)
  })

  it('says which file is missing, and how to give it; and asks no other address', async () => {
    const { json, bin } = await apart('cloth.bin')
    await expect(read(json)).rejects.toThrow(
      'buffers[0]: its data lies in another file, cloth.bin: give the two together, or their folder, or a zip of it',
    )
    const { json: away } = await apart('https://elsewhere.example/cloth.bin')
    await expect(read(away)).rejects.toThrow('buffers[0]: lies at another address')
    const short = [{ path: 'cloth.bin', bytes: bin.slice(0, 40) }]
    await expect(read(json, short)).rejects.toThrow(/^buffers\[0\]: says \d+ bytes, more than the file has$/)
  })

  it('is taken out of a zip: the mesh is what is meant, not its pictures nor what the archive keeps for itself', async () => {
    const { json, bin } = await apart('cloth.bin')
    const picture = new Uint8Array(30)
    const files = unpackZip(
      zipSync({
        'town/wood.png': picture,
        'town/cloth.gltf': json,
        'town/cloth.bin': bin,
        '__MACOSX/town/._cloth.gltf': picture,
        'town/.DS_Store': picture,
      }) as Uint8Array<ArrayBuffer>,
    )
    expect(files.map((f) => f.path)).toEqual(['town/wood.png', 'town/cloth.gltf', 'town/cloth.bin'])
    const [main, ...others] = mainsOf(files)
    expect([main.path, others]).toEqual(['town/cloth.gltf', []])
    expect((await read(main.bytes, files)).mesh.indices.length / 3).toBe(18)
  })

  it('is not unpacked where a zip is damaged or swells beyond all bounds', () => {
    const zip = zipSync({ 'a.obj': new Uint8Array(2000) })
    expect(() => unpackZip(zip.slice(0, 60) as Uint8Array<ArrayBuffer>)).toThrow('the zip is damaged')
    const huge = zipSync({ 'a.obj': [new Uint8Array(1000), { level: 0 }] })
    // The sizes it claims, in its list at the end.
    const at = huge.length - 22 - 46 - 'a.obj'.length + 24
    new DataView(huge.buffer, huge.byteOffset).setUint32(at, 0xf0000000, true)
    expect(() => unpackZip(huge as Uint8Array<ArrayBuffer>)).toThrow(/a\.obj: the zip unpacks to more than 256 MB/)
  })

  it('pictures are meant where there is nothing else, and several that can be read are offered in order', () => {
    const file = (path: string) => ({ path, bytes: new Uint8Array() })
    expect(mainsOf([file('b.png'), file('notes.txt'), file('a.png')]).map((f) => f.path)).toEqual(
      expect.arrayContaining(['a.png', 'b.png']),
    )
    const both = mainsOf([file('x/y/a.obj'), file('b.obj'), file('town.glb'), file('wood.png'), file('map.geojson')])
    expect(both.map((f) => f.path)).toEqual(['town.glb', 'b.obj', 'x/y/a.obj', 'map.geojson'])
  })
})
