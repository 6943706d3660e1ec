/**
 * Readers under fire: files changed at random are read, or refused by one sentence that says where. A share of it runs
 * with the other tests, the same each time, so that what fails is what was changed; `npm run fuzz` runs more, from a
 * seed that is printed.
 */
import { WebIO } from '@gltf-transform/core'
import { LevelError, readLevel, readLevelFile, writeLevelFile } from '@tidytrail/core/level'
import {
  mutatedBytes,
  mutatedJson,
  mutatedText,
  smallLevel,
  squareGlb,
  withJoins,
  withRoads,
  type Chance,
} from '@tidytrail/core/testing'
import { encode } from 'fast-png'
import { zipSync, zlibSync } from 'fflate'
import { EXTMeshGPUInstancing, EXTMeshoptCompression } from '@gltf-transform/extensions'
import { MeshoptEncoder } from 'meshoptimizer/encoder'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'
import { describe, expect, it } from 'vitest'
import {
  CHANNELS,
  FormatError,
  HOLES,
  LANE_WRITERS,
  plainly,
  unpackZip,
  pictureHead,
  readCoordinates,
  readEsriAscii,
  readGeoJson,
  readGltf,
  readHeightPng,
  readObj,
  readChains,
  readOpenDrive,
  readOsm,
} from '.'

const RUNS = Number(process.env.FUZZ_RUNS ?? 400)
const SEED = Number(process.env.FUZZ_SEED ?? 20260118)
/** Longest one file may take, milliseconds; a bound on getting stuck, not a measure of speed. */
const STUCK_MS = 10_000

const metres = { upAxis: 'z', scale: 1 } as const
const chance = (seed: number): Chance => {
  const generator = xoroshiro128plus(seed)
  return () => (generator.next() >>> 0) / 0x100000000
}

/** A mesh shown by two nodes, one within the other. */
const glb = () =>
  squareGlb((d) => {
    const [node] = d.getRoot().listNodes()
    node.addChild(d.createNode('Rail').setMesh(node.getMesh()).setScale([1, 2, 1]))
  })

/** The same file as JSON with its buffer inside. */
async function gltf(): Promise<Record<string, unknown>> {
  const { json, resources } = await new WebIO().binaryToJSON(await glb())
  const data = Buffer.from(Object.values(resources)[0]).toString('base64')
  return {
    ...json,
    buffers: [{ byteLength: json.buffers![0].byteLength, uri: `data:application/octet-stream;base64,${data}` }],
  }
}

const town = `<?xml version="1.0"?>
<osm version="0.6"><node id="1" lat="0" lon="0"/><node id="2" lat="0.001" lon="0.001"><tag k="highway" v="traffic_signals"/></node>
<node id="3" lat="0.002" lon="0"/><way id="9"><nd ref="1"/><nd ref="2"/><nd ref="3"/><tag k="highway" v="residential"/>
<tag k="oneway" v="-1"/><tag k="maxspeed" v="30 mph"/><tag k="lanes" v="2"/></way></osm>`
const level = smallLevel()
const oldLevel = {
  format: 'tidytrail-level',
  version: 0,
  name: 'Old',
  settings: { extent: { minX: 0, minY: 0, maxX: 9, maxY: 9 } },
  routes: {
    rt_a: {
      name: 'Old round',
      loop: true,
      points: [
        [1, 2, 0],
        [3, 4, 0],
        [5, 2, 0],
      ],
    },
  },
}
const geo = {
  type: 'FeatureCollection',
  features: [
    {
      type: 'Feature',
      properties: { name: 'A', height: 3 },
      geometry: {
        type: 'Polygon',
        coordinates: [
          [
            [0, 0],
            [4, 0],
            [4, 4],
            [0, 0],
          ],
        ],
      },
    },
    {
      type: 'Feature',
      properties: null,
      geometry: {
        type: 'MultiLineString',
        coordinates: [
          [
            [0, 0],
            [4, 0],
          ],
          [
            [1, 1],
            [2, 2],
          ],
        ],
      },
    },
    {
      type: 'Feature',
      properties: {},
      geometry: { type: 'GeometryCollection', geometries: [{ type: 'Point', coordinates: [1, 2] }] },
    },
  ],
}
/** The file with its data in one beside it. */
async function several() {
  const { json: document, resources } = await new WebIO().binaryToJSON(await glb())
  const [bin] = Object.values(resources)
  return { json: { ...document, buffers: [{ byteLength: bin.byteLength, uri: 'deck.bin' }] }, bin }
}

/** The file packed with meshopt, and shown several times. */
async function packed(): Promise<Uint8Array> {
  await MeshoptEncoder.ready
  const io = new WebIO()
    .registerExtensions([EXTMeshoptCompression, EXTMeshGPUInstancing])
    .registerDependencies({ 'meshopt.encoder': MeshoptEncoder })
  const bytes = await squareGlb((d) => {
    const [node] = d.getRoot().listNodes()
    const at = d
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.from([0, 0, 0, 5, 0, 0]))
    at.setBuffer(d.getRoot().listBuffers()[0])
    const many = d.createExtension(EXTMeshGPUInstancing).createInstancedMesh().setAttribute('TRANSLATION', at)
    node.setExtension('EXT_mesh_gpu_instancing', many)
  }, io)
  const document = await io.readBinary(bytes)
  document.createExtension(EXTMeshoptCompression).setRequired(true)
  return io.writeBinary(document)
}
const chain = JSON.stringify({ asset: { version: '2.0' }, scenes: [{ nodes: [0, 3, 4] }], nodes: [{ name: 'Way', children: [1, 2], rotation: [0, 0.7, 0, 0.7] }, { translation: [1, 0, 2] }, { matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 9, 1, 3, 1] }, { name: 'a1' }, { name: 'a2', translation: [5, 0, 0] }] }) // prettier-ignore
const bends = LANE_WRITERS[0].write(withJoins(withRoads({ a: { points: [[0, 0, 0], [60, 0, 1]] }, b: { points: [[75, 0, 1], [120, 30, 0]] } }))).text // prettier-ignore
const zip = zipSync({ 'town/deck.gltf': new Uint8Array(300).fill(7), 'town/deck.bin': new Uint8Array(90) })
const degrees =
  'ncols 3\nnrows 2\nxllcorner 7.5\nyllcorner 47\ncellsize 0.001\nNODATA_value -9999\n1 2 nan\n4 -9999 6\n'
const grid = 'ncols 3\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 2\nNODATA_value -9999\n1 2 3\n4 -9999 6\n'
const obj =
  '# a house\nv 0 0 0\nv 4 0 0\nv 4 4 0\nv 0 4 0\nv 2 2 3\ng walls\nf 1 2 3 4\nf 1/1/1 2/2/2 5//3\nf -1 -2 -3\nf 1 2 \\\n 3\n'
const png = encode({
  width: 4,
  height: 3,
  depth: 16,
  channels: 1,
  data: Uint16Array.from({ length: 12 }, (_, k) => k * 5000),
})
const colour = encode({
  width: 3,
  height: 3,
  depth: 8,
  channels: 4,
  data: Uint8Array.from({ length: 36 }, (_, k) => k * 7),
})
const table = 'name,east,north,height\nA,1,2,0\nB,3,4,0\nC,5,6,1\n'

/** A file of a kind, changed at random, and what reads it. */
type Reader = (random: Chance) => () => unknown | Promise<unknown>
const json = (document: unknown, random: Chance) =>
  random() < 0.7 ? JSON.stringify(mutatedJson(document, random)) : mutatedText(JSON.stringify(document), random)
const READERS: Record<string, Reader | Promise<Reader>> = {
  level: (random) => {
    const text =
      random() < 0.3
        ? mutatedText(writeLevelFile(level, new Map([['ab'.repeat(32), new Uint8Array(9)]])), random)
        : json(level, random)
    return () => readLevelFile(text)
  },
  'level as an object': (random) => {
    const document = mutatedJson(level, random)
    return () => readLevel(document)
  },
  'level of version 0': (random) => {
    const document = mutatedJson(oldLevel, random)
    return () => readLevel(document)
  },
  'glTF, binary': glb().then((bytes) => (random: Chance) => {
    const file = mutatedBytes(bytes, random)
    return () => readGltf(file, metres)
  }),
  'glTF, text': gltf().then((document) => (random: Chance) => {
    const file = new TextEncoder().encode(json(document, random))
    return () => readGltf(file, metres)
  }),
  'glTF, its data in another file': several().then(({ json: document, bin }) => (random: Chance) => {
    const file = new TextEncoder().encode(json(document, random))
    const files = [{ path: 'deck.bin', bytes: random() < 0.5 ? bin : mutatedBytes(bin, random) }]
    return () => readGltf(file, metres, { files })
  }),
  'glTF, packed': packed().then((bytes) => (random: Chance) => {
    const file = mutatedBytes(bytes, random)
    return () => plainly('glTF', () => readGltf(file, metres))
  }),
  zip: (random) => {
    const file = mutatedBytes(zip, random)
    return () => unpackZip(file)
  },
  OBJ: (random) => {
    const text = mutatedText(obj, random)
    return () => readObj(text, metres)
  },
  GeoJSON: (random) => {
    const text = json(geo, random)
    return () =>
      readGeoJson(text, random() < 0.5 ? { units: 'metres' } : { units: 'degrees', originLon: 0, originLat: 0 })
  },
  'OpenStreetMap XML': (random) => {
    const text = mutatedText(town, random)
    return () => readOsm(text)
  },
  'chains of nodes in glTF': (random) => {
    const bytes = new TextEncoder().encode(
      random() < 0.5 ? json(JSON.parse(chain), random) : mutatedText(chain, random),
    )
    return () => readChains(bytes)
  },
  'ASAM OpenDRIVE': (random) => {
    const text = mutatedText(bends, random)
    return () => readOpenDrive(text)
  },
  'Esri ASCII grid': (random) => {
    const text = mutatedText(random() < 0.5 ? grid : degrees, random)
    const holes = HOLES[Math.floor(random() * HOLES.length)]
    return () => readEsriAscii(text, { holes })
  },
  'PNG heights': (random) => {
    const bytes = mutatedBytes(random() < 0.5 ? png : colour, random)
    return () => readHeightPng(bytes, { lowM: 0, highM: 50, channel: CHANNELS[Math.floor(random() * CHANNELS.length)] })
  },
  'a picture': (random) => {
    const bytes = mutatedBytes(png, random)
    return () => pictureHead(bytes)
  },
  'a list of places': (random) => {
    const text = mutatedText(table, random)
    return () => readCoordinates(text)
  },
}

describe(`a reader (seed ${SEED}, ${RUNS} files each)`, () => {
  it.each(Object.keys(READERS))('of %s reads, or refuses by one sentence', async (what) => {
    const make = await READERS[what]
    const random = chance(SEED)
    let refused = 0
    for (let k = 0; k < RUNS; k++) {
      const read = make(random)
      const began = performance.now()
      try {
        await read()
      } catch (error) {
        const told = error as Error & { why?: string }
        if (!(told instanceof FormatError || told instanceof LevelError))
          throw new Error(`file ${k} of seed ${SEED}: ${told.name}: ${told.message}`, { cause: error })
        expect(told.why).toMatch(/\S/)
        expect(told.message.length).toBeLessThan(400)
        expect(told.message).not.toMatch(/\n|undefined|\[object|Cannot read|is not a function/)
        refused++
      }
      const ms = performance.now() - began
      if (ms > STUCK_MS) throw new Error(`file ${k} of seed ${SEED} took ${Math.round(ms)} ms`)
    }
    expect(refused).toBeGreaterThan(0)
  })
})

describe('a file that asks for much and holds little', () => {
  const heap = () => process.memoryUsage().rss / 2 ** 20
  it('of glTF with a count of hundreds of millions is refused by its bytes', async () => {
    const document = await gltf()
    ;(document.accessors as { count: number }[])[0].count = 400_000_000
    const before = heap()
    await expect(readGltf(new TextEncoder().encode(JSON.stringify(document)), metres)).rejects.toThrow(
      /accessors\[0\]\.count: may be at most/,
    )
    ;(document.accessors as { count: number }[])[0].count = 90_000_000
    await expect(readGltf(new TextEncoder().encode(JSON.stringify(document)), metres)).rejects.toThrow(
      /more than its 48 bytes hold/,
    )
    expect(heap() - before).toBeLessThan(200)
  })
  it('of glTF without any data behind an accessor is refused', async () => {
    const document = await gltf()
    delete (document.accessors as { bufferView?: number }[])[0].bufferView
    await expect(readGltf(new TextEncoder().encode(JSON.stringify(document)), metres)).rejects.toThrow(
      'accessors[0]: has no data',
    )
  })
  it('of glTF whose nodes show one mesh thousands of times is counted as often', async () => {
    const triangles = 20_000
    const positions = new Float32Array(triangles * 9).map((_, k) => k % 97)
    const data = Buffer.from(positions.buffer).toString('base64')
    const document = {
      asset: { version: '2.0' },
      scenes: [{ nodes: Array.from({ length: 2_000 }, (_, k) => k) }],
      nodes: Array.from({ length: 2_000 }, () => ({ mesh: 0 })),
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      accessors: [{ count: triangles * 3, componentType: 5126, type: 'VEC3', bufferView: 0 }],
      bufferViews: [{ buffer: 0, byteLength: positions.byteLength }],
      buffers: [{ byteLength: positions.byteLength, uri: `data:application/octet-stream;base64,${data}` }],
    }
    const file = new TextEncoder().encode(JSON.stringify(document))
    await expect(readGltf(file, metres)).rejects.toThrow(
      /meshes: come to 40,000,000 triangles with all nodes that show them/,
    )
  })
  it('of glTF whose nodes hold one another is refused', async () => {
    const document = { ...(await gltf()), nodes: [{ children: [1] }, { children: [0] }] }
    await expect(readGltf(new TextEncoder().encode(JSON.stringify(document)), metres)).rejects.toThrow(
      /deeper than 64 nodes/,
    )
    const twice = { ...(await gltf()), nodes: [{ children: [2] }, { children: [2] }, {}] }
    await expect(readGltf(new TextEncoder().encode(JSON.stringify(twice)), metres)).rejects.toThrow(
      /which node 0 holds already/,
    )
  })
  it('of PNG that inflates to far more than its size is refused on the way, in whatever chunk it hides', () => {
    const bomb = zlibSync(new Uint8Array(120_000_000), { level: 9 })
    const chunk = (name: string, data: Uint8Array) => {
      const out = new Uint8Array(data.length + 12)
      new DataView(out.buffer).setUint32(0, data.length)
      out.set(new TextEncoder().encode(name), 4)
      out.set(data, 8)
      return out
    }
    const joined = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((p) => [...p]))
    const head = png.slice(0, 33)
    const before = heap()
    expect(() => readHeightPng(joined(head, chunk('IDAT', bomb), png.slice(-12)), { lowM: 0, highM: 1 })).toThrow(
      /IDAT: inflates to more than/,
    )
    const hidden = joined(head, chunk('iCCP', joined(new TextEncoder().encode('p\0\0'), bomb)), png.slice(33))
    expect(readHeightPng(hidden, { lowM: 0, highM: 50 }).grid.columns).toBe(4)
    expect(heap() - before).toBeLessThan(500)
  })
  it('of OBJ with a face of thousands of corners, or the same few again and again, is refused by its line', () => {
    const vertices = Array.from({ length: 21_000 }, (_, k) => `v ${k} ${k % 7} 0`).join('\n')
    const all = Array.from({ length: 21_000 }, (_, k) => k + 1).join(' ')
    expect(() => readObj(`${vertices}\nf ${all}\n`, metres)).toThrow(/^line 21001: a face may have 20,000 corners/)
    expect(() => readObj(`v 0 0 0\nv 1 0 0\nv 1 1 0\nf ${'1 2 3 '.repeat(300)}\n`, metres)).toThrow('has no triangles')
    expect(() => readObj(`v 0 0 0\nv 1 0 0\nv 1 1 0\nf ${'1 '.repeat(900)}\n`, metres)).toThrow(
      'has only triangles without area',
    )
    expect(readObj('v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 1 2 3 3 4 1\n', metres).mesh.indices).toHaveLength(6)
  })
  it('of GeoJSON nested without end is refused before it is parsed', () => {
    expect(() => readGeoJson(`{"type":"Point","coordinates":${'['.repeat(5_000_000)}`, { units: 'metres' })).toThrow(
      /nested deeper than 64/,
    )
  })
})
