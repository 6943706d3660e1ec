import type { GLTF } from '@gltf-transform/core'
import { z } from 'zod'
import { keysOf, whyOf } from '@tidytrail/core/level'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'

const index = z.number().int().min(0).max(10_000_000)
const bytes = z.number().int().min(0).max(4_294_967_295)
const numbers = (n: number) => z.array(z.number()).length(n)
const some = <S extends z.ZodType>(schema: S) => z.array(schema).optional()
const name = z.string().optional()

/** Bytes of one number, by its kind (glTF 2.0, 3.6.2.2). */
const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
const COMPONENTS = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 } as const

const primitive = z.looseObject({
  attributes: z.record(z.string(), index),
  indices: index.optional(),
  mode: z.number().int().min(0).max(6).optional(),
  targets: z.array(z.record(z.string(), index)).optional(),
})

/** The parts of a glTF file that are used, as they have to be. */
const schema = z.looseObject({
  asset: z.looseObject({ version: z.string() }),
  extensionsRequired: some(z.string()),
  extensionsUsed: some(z.string()),
  scene: index.optional(),
  scenes: some(z.looseObject({ name, nodes: some(index) })),
  nodes: some(
    z.looseObject({
      name,
      mesh: index.optional(),
      children: some(index),
      matrix: numbers(16).optional(),
      translation: numbers(3).optional(),
      rotation: numbers(4).optional(),
      scale: numbers(3).optional(),
    }),
  ),
  meshes: some(z.looseObject({ name, primitives: z.array(primitive) })),
  accessors: some(
    z.looseObject({
      count: z.number().int().min(1).max(100_000_000),
      componentType: z.union(Object.keys(COMPONENT_BYTES).map((k) => z.literal(Number(k)))),
      type: z.enum(Object.keys(COMPONENTS) as (keyof typeof COMPONENTS)[]),
      bufferView: index.optional(),
      byteOffset: bytes.optional(),
      sparse: z.undefined({ error: 'is sparse, which is not read; export it whole' }).optional(),
    }),
  ),
  bufferViews: some(
    z.looseObject({
      buffer: index,
      byteLength: bytes,
      byteOffset: bytes.optional(),
      byteStride: z.number().int().min(4).max(252).optional(),
    }),
  ),
  buffers: some(z.looseObject({ byteLength: bytes, uri: z.string().optional() })),
})

type Tame = z.output<typeof schema>

/** What would make a library work for ever, fall over or ask for memory that the file does not back, is taken out. */
const UNUSED = [
  'images',
  'textures',
  'materials',
  'samplers',
  'animations',
  'skins',
  'cameras',
  'extensions',
  'extras',
] as const

/**
 * Makes sure of everything in a glTF file that is used, before a library takes it apart: kinds, numbers of things,
 * counts against the bytes that are there, and how often each triangle is used.
 * @throws FormatError naming the place
 */
export function assertTame(json: unknown, fileBytes: number): asserts json is GLTF.IGLTF {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new FormatError('', 'is no glTF: no object at its top')
  for (const key of UNUSED) delete (json as Record<string, unknown>)[key]
  let read
  try {
    read = schema.safeParse(json)
  } catch {
    // An object with a length of its own kind passes for a list until that is compared.
    throw new FormatError('', 'holds an object where a list is expected')
  }
  if (!read.success) {
    const issue = read.error.issues[0]
    throw new FormatError(placeOf(keysOf(issue)), whyOf(issue))
  }
  const file = read.data
  if (!file.asset.version.startsWith('2'))
    throw new FormatError(
      'asset.version',
      `is ${JSON.stringify(file.asset.version.slice(0, 20))}, and only 2.0 is read`,
    )
  for (const key of file.extensionsRequired ?? [])
    throw new FormatError('extensionsRequired', `${key.slice(0, 60)} is needed to read it, and is not known here`)
  for (const [i, buffer] of (file.buffers ?? []).entries()) {
    if (buffer.uri !== undefined && !buffer.uri.startsWith('data:'))
      throw new FormatError(
        `buffers[${i}]`,
        `refers to another file (${buffer.uri.slice(0, 60)}); export it with everything in one file`,
      )
    if (buffer.byteLength > fileBytes)
      throw new FormatError(
        `buffers[${i}]`,
        `says ${buffer.byteLength.toLocaleString('en')} bytes, more than the file has`,
      )
  }
  assertViews(file)
  assertTriangles(file)
}

const placeOf = (keys: readonly string[]) =>
  keys
    .map((k) => (/^\d+$/.test(k) ? `[${k}]` : `.${k}`))
    .join('')
    .replace(/^\./, '')

/** @throws FormatError when a number names something that is not there */
function within(list: readonly unknown[] | undefined, i: number | undefined, at: string, what: string): void {
  if (i !== undefined && i >= (list?.length ?? 0))
    throw new FormatError(at, `names ${what} ${i}, and there are ${list?.length ?? 0}`)
}

function assertViews({ buffers = [], bufferViews = [], accessors = [] }: Tame): void {
  for (const [i, v] of bufferViews.entries()) {
    within(buffers, v.buffer, `bufferViews[${i}]`, 'buffer')
    if ((v.byteOffset ?? 0) + v.byteLength > buffers[v.buffer].byteLength)
      throw new FormatError(`bufferViews[${i}]`, 'reaches beyond the end of its buffer')
  }
  for (const [i, a] of accessors.entries()) {
    const at = `accessors[${i}]`
    if (a.bufferView === undefined) throw new FormatError(at, 'has no data')
    within(bufferViews, a.bufferView, at, 'buffer view')
    const view = bufferViews[a.bufferView]
    const size = COMPONENT_BYTES[a.componentType] * COMPONENTS[a.type]
    const needed = (a.byteOffset ?? 0) + (a.count - 1) * Math.max(view.byteStride ?? size, size) + size
    if (needed > view.byteLength)
      throw new FormatError(
        at,
        `asks for ${a.count.toLocaleString('en')} values, more than its ${view.byteLength.toLocaleString('en')} bytes hold`,
      )
  }
}

/** Triangles as they come out, each mesh counted as often as nodes show it. */
function assertTriangles({ nodes = [], meshes = [], accessors = [], scenes = [] }: Tame): void {
  if (nodes.length > FORMAT_LIMITS.nodes)
    throw new FormatError(
      'nodes',
      `there are ${nodes.length.toLocaleString('en')}; at most ${FORMAT_LIMITS.nodes.toLocaleString('en')} are read`,
    )
  for (const [i, scene] of scenes.entries()) for (const n of scene.nodes ?? []) within(nodes, n, `scenes[${i}]`, 'node')
  const parents = new Map<number, number>()
  for (const [i, node] of nodes.entries()) {
    within(meshes, node.mesh, `nodes[${i}]`, 'mesh')
    for (const child of node.children ?? []) {
      within(nodes, child, `nodes[${i}]`, 'node')
      if (parents.has(child))
        throw new FormatError(`nodes[${i}]`, `holds node ${child}, which node ${parents.get(child)} holds already`)
      parents.set(child, i)
    }
  }
  // With one holder each, nodes that hold one another in a ring are those whose way up never ends.
  for (const start of nodes.keys()) {
    let depth = 0
    for (let n: number | undefined = start; n !== undefined; n = parents.get(n))
      if (++depth > FORMAT_LIMITS.depth)
        throw new FormatError(`nodes[${start}]`, `lies deeper than ${FORMAT_LIMITS.depth} nodes within one another`)
  }
  const sizes = meshes.map((mesh, i) => {
    let triangles = 0
    let vertices = 0
    for (const [k, p] of mesh.primitives.entries()) {
      const at = `meshes[${i}].primitives[${k}]`
      for (const a of [p.indices, ...Object.values(p.attributes)]) within(accessors, a, at, 'accessor')
      const position = p.attributes.POSITION
      if (position === undefined) continue
      if (accessors[position].type !== 'VEC3') throw new FormatError(at, 'has positions that are not of three numbers')
      if (p.indices !== undefined && accessors[p.indices].type !== 'SCALAR')
        throw new FormatError(at, 'has indices that are not single numbers')
      const corners = accessors[p.indices ?? position].count
      triangles += (p.mode ?? 4) === 4 ? corners / 3 : corners
      vertices += accessors[position].count
    }
    return { triangles, vertices }
  })
  let triangles = 0
  let vertices = 0
  for (const node of nodes) {
    if (node.mesh === undefined) continue
    triangles += sizes[node.mesh].triangles
    vertices += sizes[node.mesh].vertices
  }
  if (triangles > FORMAT_LIMITS.triangles || vertices > FORMAT_LIMITS.vertices)
    throw new FormatError(
      'meshes',
      `come to ${Math.round(triangles).toLocaleString('en')} triangles with all nodes that show them; at most ${FORMAT_LIMITS.triangles.toLocaleString('en')} are read`,
    )
}
