import { GLB_BUFFER, WebIO, type GLTF, type Node, type Primitive } from '@gltf-transform/core'
import { assertShallow, LevelError } from '@tidytrail/core/level'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { assertTame } from './tame'
import { MeshGatherer, type MeshOptions, type MeshRead } from '../mesh-cleaning'

const GLB_MAGIC = 0x46546c67
const JSON_CHUNK = 0x4e4f534a

interface Parts {
  readonly json: GLTF.IGLTF
  /** The binary chunk of the binary form. */
  readonly bin: Uint8Array | undefined
}

/** Either form of a glTF file as its parts, before a library takes it apart. */
function partsOf(bytes: Uint8Array): Parts {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let text: string
  let bin: Uint8Array | undefined
  if (bytes.byteLength >= 20 && view.getUint32(0, true) === GLB_MAGIC) {
    if (view.getUint32(4, true) !== 2)
      throw new FormatError('header', `is glTF ${view.getUint32(4, true)}, and only 2 is read`)
    const length = view.getUint32(8, true)
    if (length !== bytes.byteLength) {
      throw new FormatError(
        'header',
        `says ${length} bytes, but the file has ${bytes.byteLength}: it is cut off or damaged`,
      )
    }
    const json = view.getUint32(12, true)
    if (view.getUint32(16, true) !== JSON_CHUNK || 20 + json > bytes.byteLength)
      throw new FormatError('first chunk', 'is not the JSON it must be')
    text = new TextDecoder().decode(bytes.subarray(20, 20 + json))
    const next = 20 + json
    if (next + 8 <= bytes.byteLength) {
      const size = view.getUint32(next, true)
      if (next + 8 + size > bytes.byteLength)
        throw new FormatError('binary chunk', 'reaches beyond the end of the file')
      bin = bytes.slice(next + 8, next + 8 + size)
    }
  } else text = new TextDecoder().decode(bytes)
  try {
    assertShallow(text)
    return { json: JSON.parse(text) as GLTF.IGLTF, bin }
  } catch (error) {
    if (error instanceof LevelError) throw new FormatError(error.at, error.why)
    throw new FormatError('', 'is no glTF: neither its binary form nor JSON')
  }
}

/**
 * Triangles from a glTF 2.0 file (Khronos 2021), binary or JSON with its buffers inside; its scene is flattened.
 * @throws FormatError naming the node, mesh or chunk
 */
export async function readGltf(bytes: Uint8Array, options: MeshOptions): Promise<MeshRead> {
  const { json, bin } = partsOf(bytes)
  assertTame(json, bytes.byteLength)
  // Pictures are none of our business, and may lie in other files.
  json.images = undefined
  json.textures = undefined
  json.materials = undefined
  for (const mesh of json.meshes ?? []) for (const p of mesh.primitives) p.material = undefined
  const io = new WebIO({ credentials: 'omit' })
  let root
  try {
    const resources = { ...inside(json), ...(bin ? { [GLB_BUFFER]: bin as Uint8Array<ArrayBuffer> } : {}) }
    const document = await io.readJSON({ json, resources })
    root = document.getRoot()
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('', `cannot be taken apart: ${saidOf(error)}`)
  }
  const gather = new MeshGatherer(options)
  const skipped = new Map<string, number>()
  const visit = (node: Node, depth: number) => {
    if (depth > FORMAT_LIMITS.depth)
      throw new FormatError(nameOf(node), `lies deeper than ${FORMAT_LIMITS.depth} nodes within one another`)
    const mesh = node.getMesh()
    if (mesh) {
      const matrix = node.getWorldMatrix()
      for (const [i, primitive] of mesh.listPrimitives().entries())
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
  return { ...read, repairs: [...read.repairs, ...notes] }
}

/** What the library says of a file, where it says it to people. */
function saidOf(error: unknown): string {
  const { message } = error as Error
  return error instanceof TypeError || error instanceof RangeError
    ? 'its parts do not fit together'
    : message.split('\n')[0].slice(0, 120)
}

const nameOf = (node: Node) => (node.getName() ? `node “${node.getName().slice(0, 60)}”` : 'a node without a name')

/** Buffers given as data URIs, by that URI. */
function inside(json: GLTF.IGLTF): Record<string, Uint8Array<ArrayBuffer>> {
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {}
  for (const [i, buffer] of (json.buffers ?? []).entries()) {
    if (!buffer.uri) continue
    const comma = buffer.uri.indexOf(',')
    const name = `buffer${i}.bin`
    try {
      const raw = atob(buffer.uri.slice(comma + 1))
      const bytes = new Uint8Array(raw.length)
      for (let k = 0; k < raw.length; k++) bytes[k] = raw.charCodeAt(k)
      resources[name] = bytes
    } catch {
      throw new FormatError(`buffers[${i}]`, 'is not base64 as it says')
    }
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
