import {
  GLB_BUFFER,
  MathUtils,
  WebIO,
  type GLTF,
  type mat4,
  type Node,
  type Primitive,
  type vec3,
  type vec4,
} from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
  type InstancedMesh,
} from '@gltf-transform/extensions'
import { fileBeside, type Beside } from '../beside'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { partsOf } from './parts'
import { assertTame, INSTANCES } from './tame'
import { MeshGatherer, type MeshOptions, type MeshRead } from '../mesh-cleaning'

/**
 * Triangles from a glTF 2.0 file (Khronos 2021), binary or JSON, with its buffers inside it or in files beside it; its
 * scene is flattened, instances and all. Skins stand as they were bound, morphs as they were modelled.
 * @throws FormatError naming the node, mesh or chunk
 */
export async function readGltf(bytes: Uint8Array, options: MeshOptions, beside: Beside = {}): Promise<MeshRead> {
  const { json, bin } = partsOf(bytes)
  const data = new Map<string, Uint8Array<ArrayBuffer>>()
  const { passedOver, needsDraco, needsMeshopt } = assertTame(json, (uri, at) => {
    if (uri === undefined) return bin?.byteLength ?? 0
    const found = dataOf(uri, at, beside)
    data.set(uri, found)
    return found.byteLength
  })
  // Pictures are none of our business, and may lie in other files.
  for (const mesh of json.meshes ?? []) for (const p of mesh.primitives) p.material = undefined
  const changing = (json.meshes ?? []).filter((m) => m.primitives.some((p) => p.targets?.length)).length
  for (const mesh of json.meshes ?? []) for (const p of mesh.primitives) p.targets = undefined
  const io = await reader(needsDraco, needsMeshopt, beside)
  let root
  try {
    const resources = { ...named(json, data), ...(bin ? { [GLB_BUFFER]: bin as Uint8Array<ArrayBuffer> } : {}) }
    const document = await io.readJSON({ json, resources })
    root = document.getRoot()
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('', `cannot be taken apart: ${saidOf(error)}`)
  }
  const gather = new MeshGatherer(options)
  const skipped = new Map<string, number>()
  let skinned = 0
  const visit = (node: Node, depth: number) => {
    if (depth > FORMAT_LIMITS.depth)
      throw new FormatError(nameOf(node), `lies deeper than ${FORMAT_LIMITS.depth} nodes within one another`)
    const mesh = node.getMesh()
    if (mesh) {
      const skin = node.getSkin()
      if (skin) skinned++
      const parts = mesh.listPrimitives()
      for (const matrix of placesOf(node))
        for (const [i, primitive] of parts.entries())
          take(gather, primitive, matrix, () => `${nameOf(node)}, part ${i + 1}`, skipped)
    }
    for (const child of node.listChildren()) visit(child, depth + 1)
  }
  const scene = root.getDefaultScene() ?? root.listScenes()[0]
  if (!scene) throw new FormatError('', 'has no scene')
  try {
    for (const node of scene.listChildren()) visit(node, 1)
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('scene', `cannot be taken apart: ${saidOf(error)}`)
  }
  const read = gather.finish()
  const notes = [...skipped].map(([what, n]) => `${n} × ${what} left out`)
  if (skinned > 0) notes.push(`${skinned} × a skin on bones: it stands as it was bound to them`)
  if (changing > 0) notes.push(`${changing} × a mesh that can change its shape: it has the one it is modelled in`)
  if (passedOver.length > 0)
    notes.push(`passed over, since no shape depends on it: ${passedOver.map((key) => key.slice(0, 60)).join(', ')}`)
  return { ...read, repairs: [...read.repairs, ...notes] }
}

/** A reader that knows the packings a file has. @throws FormatError when one cannot be unpacked here */
async function reader(draco: boolean, meshopt: boolean, { decoders = {} }: Beside): Promise<WebIO> {
  const io = new WebIO({ credentials: 'omit' }).registerExtensions([
    EXTMeshGPUInstancing,
    EXTMeshoptCompression,
    KHRDracoMeshCompression,
    KHRMeshQuantization,
  ])
  const made: Record<string, unknown> = {}
  if (draco) {
    if (!decoders.draco) throw new FormatError('', 'is packed with Draco, which is not unpacked here')
    made['draco3d.decoder'] = await decoders.draco()
  }
  if (meshopt) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder')
    await MeshoptDecoder.ready
    made['meshopt.decoder'] = MeshoptDecoder
  }
  return io.registerDependencies(made)
}

/** Where a node's mesh stands: once, or as often as it is instanced, as columns of 4 × 4 numbers. */
function placesOf(node: Node): readonly mat4[] {
  const skin = node.getSkin()
  const [joint] = skin?.listJoints() ?? []
  if (skin && joint) {
    // A skin goes where its bones are, wherever its node is; as it was bound, all bones take it to the same place.
    const bind = skin.getInverseBindMatrices()
    return [bind ? times(joint.getWorldMatrix(), bind.getElement(0, []) as unknown as mat4) : joint.getWorldMatrix()]
  }
  const world = node.getWorldMatrix()
  const many = node.getExtension<InstancedMesh>(INSTANCES)
  if (!many) return [world]
  const [t, r, s] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((what) => many.getAttribute(what))
  const count = Math.max(...[t, r, s].map((a) => a?.getCount() ?? 0))
  return Array.from({ length: count }, (_, k) =>
    times(
      world,
      MathUtils.compose(
        (t?.getElement(k, []) ?? [0, 0, 0]) as vec3,
        (r?.getElement(k, []) ?? [0, 0, 0, 1]) as vec4,
        (s?.getElement(k, []) ?? [1, 1, 1]) as vec3,
        new Array(16).fill(0) as mat4,
      ),
    ),
  )
}

/** The product of two 4 × 4 matrices, by columns. */
function times(a: readonly number[], b: readonly number[]): mat4 {
  const out = new Array<number>(16).fill(0)
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++)
      for (let k = 0; k < 4; k++) out[column * 4 + row] += a[k * 4 + row] * b[column * 4 + k]
  return out as mat4
}

/** What the library says of a file, where it says it to people. */
function saidOf(error: unknown): string {
  const { message } = error as Error
  return error instanceof TypeError || error instanceof RangeError
    ? 'its parts do not fit together'
    : message.split('\n')[0].slice(0, 120)
}

const nameOf = (node: Node) =>
  typeof node.getName() === 'string' && node.getName()
    ? `node “${node.getName().slice(0, 60)}”`
    : 'a node without a name'

/** The bytes at the address of a buffer: within the address itself, or in a file beside. */
function dataOf(uri: string, at: string, { files = [] }: Beside): Uint8Array<ArrayBuffer> {
  if (!uri.startsWith('data:')) {
    const file = fileBeside(files, uri)
    if (file) return file.bytes
    const name = uri.slice(0, 60)
    throw new FormatError(
      at,
      /^\w+:/.test(uri)
        ? `lies at another address (${name}), which is not asked; give the file itself`
        : `its data lies in another file, ${name}: give the two together, or their folder, or a zip of it`,
    )
  }
  try {
    const raw = atob(uri.slice(uri.indexOf(',') + 1))
    const bytes = new Uint8Array(raw.length)
    for (let k = 0; k < raw.length; k++) bytes[k] = raw.charCodeAt(k)
    return bytes
  } catch {
    throw new FormatError(at, 'is not base64 as it says')
  }
}

/** The data of buffers under short names, which the buffers are then told. */
function named(json: GLTF.IGLTF, data: ReadonlyMap<string, Uint8Array<ArrayBuffer>>) {
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {}
  for (const [i, buffer] of (json.buffers ?? []).entries()) {
    if (buffer.uri === undefined) continue
    const name = `buffer${i}.bin`
    resources[name] = data.get(buffer.uri)!
    buffer.uri = name
  }
  return resources
}

const TRIANGLES = 4
const STRIP = 5
const FAN = 6

function take(
  gather: MeshGatherer,
  primitive: Primitive,
  m: readonly number[],
  at: () => string,
  skipped: Map<string, number>,
): void {
  const mode = primitive.getMode()
  if (mode < TRIANGLES) {
    skipped.set('points or lines', (skipped.get('points or lines') ?? 0) + 1)
    return
  }
  const position = primitive.getAttribute('POSITION')
  if (!position) throw new FormatError(at(), 'has no positions')
  const base = gather.vertices
  const v = [0, 0, 0]
  const count = position.getCount()
  // A mirrored node turns its triangles inside out.
  const mirrored =
    m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]) < 0
  for (let k = 0; k < count; k++) {
    position.getElement(k, v)
    gather.vertex(
      m[0] * v[0] + m[4] * v[1] + m[8] * v[2] + m[12],
      m[1] * v[0] + m[5] * v[1] + m[9] * v[2] + m[13],
      m[2] * v[0] + m[6] * v[1] + m[10] * v[2] + m[14],
      () => `${at()}, vertex ${k}`,
    )
  }
  const indices = primitive.getIndices()
  const n = indices ? indices.getCount() : count
  const index = (k: number) => base + (indices ? indices.getScalar(k) : k)
  const add = (a: number, b: number, c: number) =>
    mirrored ? gather.triangle(a, c, b, at) : gather.triangle(a, b, c, at)
  if (mode === TRIANGLES) for (let k = 0; k + 2 < n; k += 3) add(index(k), index(k + 1), index(k + 2))
  else if (mode === STRIP)
    for (let k = 0; k + 2 < n; k++) {
      if (k % 2 === 0) add(index(k), index(k + 1), index(k + 2))
      else add(index(k), index(k + 2), index(k + 1))
    }
  else if (mode === FAN) for (let k = 1; k + 1 < n; k++) add(index(0), index(k), index(k + 1))
}
