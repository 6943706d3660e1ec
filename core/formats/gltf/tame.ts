import type { GLTF } from '@gltf-transform/core'
import { z } from 'zod'
import { keysOf, whyOf } from '@tidytrail/core/level'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'

const index = z.number().int().min(0).max(10_000_000)
const bytes = z.number().int().min(0).max(4_294_967_295)
const numbers = (n: number) => z.array(z.number()).length(n)
const some = <S extends z.ZodType>(schema: S) => z.array(schema).optional()
/** Names are only shown, whatever they are. */
const name = z.unknown().optional()

/** Bytes of one number, by its kind (glTF 2.0, 3.6.2.2). */
const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
const COMPONENTS = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 } as const

/** Extensions that say where geometry is: these are read. */
export const DRACO = 'KHR_draco_mesh_compression'
export const MESHOPT = 'EXT_meshopt_compression'
const MESHOPT_KHR = 'KHR_meshopt_compression'
export const INSTANCES = 'EXT_mesh_gpu_instancing'
const READ: readonly string[] = [DRACO, MESHOPT, INSTANCES, 'KHR_mesh_quantization']
/** Extensions that concern how things look, sound or move, and not where they are: these are passed over. */
const LOOKS =
  /^(KHR_(materials|texture|lights|animation|xmp|audio|interactivity|node_(visibility|hoverability|selectability)|techniques?|gaussian)|(EXT|MSFT|ADOBE|GOOGLE|MOZ|NV|AGI|FB|CESIUM|SPECTRUM|KHRX?)_(materials|texture|lights|lod|audio|mesh_outline|vrm)|VRM|MSFT_lod|EXT_structural|EXT_mesh_features|EXT_instance_features|EXT_feature|KHR_materials)/i

const packed = z.looseObject({
  buffer: index,
  byteOffset: bytes.optional(),
  byteLength: bytes,
  byteStride: z.number().int().min(1).max(256),
  count: z.number().int().min(0).max(100_000_000),
  mode: z.enum(['ATTRIBUTES', 'TRIANGLES', 'INDICES']),
  filter: z.enum(['NONE', 'OCTAHEDRAL', 'QUATERNION', 'EXPONENTIAL', 'COLOR']).optional(),
})

const primitive = z.looseObject({
  attributes: z.record(z.string(), index),
  extensions: z.looseObject({ [DRACO]: z.looseObject({ bufferView: index }).optional() }).optional(),
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
      skin: index.optional(),
      extensions: z
        .looseObject({ [INSTANCES]: z.looseObject({ attributes: z.record(z.string(), index) }).optional() })
        .optional(),
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
      sparse: z
        .looseObject({
          count: z.number().int().min(1).max(100_000_000),
          indices: z.looseObject({ bufferView: index, byteOffset: bytes.optional(), componentType: z.number() }),
          values: z.looseObject({ bufferView: index, byteOffset: bytes.optional() }),
        })
        .optional(),
    }),
  ),
  bufferViews: some(
    z.looseObject({
      buffer: index,
      byteLength: bytes,
      byteOffset: bytes.optional(),
      byteStride: z.number().int().min(1).max(256).optional(),
      extensions: z.looseObject({ [MESHOPT]: packed.optional(), [MESHOPT_KHR]: packed.optional() }).optional(),
    }),
  ),
  buffers: some(
    z.looseObject({
      byteLength: bytes,
      uri: z.string().optional(),
      extensions: z.record(z.string(), z.looseObject({ fallback: z.boolean().optional() })).optional(),
    }),
  ),
  skins: some(z.looseObject({ joints: z.array(index).min(1), inverseBindMatrices: index.optional() })),
})

type Tame = z.output<typeof schema>

/** What would make a library work for ever, fall over or ask for memory that the file does not back, is taken out. */
const UNUSED = ['images', 'textures', 'materials', 'samplers', 'animations', 'cameras', 'extensions', 'extras'] as const

/** What a glTF file needs beside its own bytes to be taken apart, and what of it is passed over. */
export interface Tamed {
  /** Extensions that are passed over: they concern looks only, or nobody needs them. */
  readonly passedOver: readonly string[]
  readonly needsDraco: boolean
  readonly needsMeshopt: boolean
}

/** What is used of a glTF file. */
export type GltfFile = z.output<typeof schema>

/** The parts of a glTF file that are used, if they are as they have to be. @throws FormatError naming the place */
export function gltfFile(json: unknown): GltfFile {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new FormatError('', 'is no glTF: no object at its top')
  assertVersion(json as Record<string, unknown>)
  for (const key of UNUSED) delete (json as Record<string, unknown>)[key]
  let read
  try {
    read = schema.safeParse(json)
  } catch {
    // An object with a length of its own kind passes for a list until that is compared.
    throw new FormatError('', 'holds an object where a list is expected')
  }
  if (read.success) return read.data
  const issue = read.error.issues[0]
  throw new FormatError(placeOf(keysOf(issue)), whyOf(issue))
}

/**
 * Makes sure of everything in a glTF file that is used, before a library takes it apart: kinds, numbers of things,
 * counts against the bytes that are there, and how often each triangle is used. What is not used is taken out.
 * @param bytesOf how many bytes the data of a buffer has, given its address
 * @throws FormatError naming the place
 */
export function assertTame(json: unknown, bytesOf: (uri: string | undefined, at: string) => number): Tamed {
  const file = gltfFile(json)
  for (const key of file.extensionsRequired ?? [])
    if (!READ.includes(key) && !LOOKS.test(key))
      throw new FormatError(
        'extensionsRequired',
        key === MESHOPT_KHR
          ? 'meshopt packing by its newest name is not read; pack it as EXT_meshopt_compression'
          : `${key.slice(0, 60)} is needed to read it, and is not known here`,
      )
  const named = [...new Set([...(file.extensionsUsed ?? []), ...(file.extensionsRequired ?? [])])]
  const inDraco = new Set<number>()
  for (const mesh of file.meshes ?? [])
    for (const p of mesh.primitives)
      if (p.extensions?.[DRACO])
        for (const a of [p.indices, ...Object.values(p.attributes)]) if (a !== undefined) inDraco.add(a)
  const needsMeshopt = (file.bufferViews ?? []).some((v) => v.extensions?.[MESHOPT])
  for (const [i, buffer] of (file.buffers ?? []).entries()) {
    const at = `buffers[${i}]`
    // Buffers of packed data that only stand for what it unpacks to hold nothing.
    const standsFor = buffer.uri === undefined && i > 0
    if (standsFor && needsMeshopt && Object.values(buffer.extensions ?? {}).some((e) => e.fallback)) {
      if (buffer.byteLength > FORMAT_LIMITS.unpackedBytes) throw new FormatError(at, tooMuch(buffer.byteLength))
      continue
    }
    if (buffer.byteLength > bytesOf(buffer.uri, at))
      throw new FormatError(at, `says ${buffer.byteLength.toLocaleString('en')} bytes, more than the file has`)
  }
  assertViews(file, inDraco)
  assertTriangles(file)
  const passedOver = named.filter((key) => !READ.includes(key))
  dropExtensions(json as unknown as GLTF.IGLTF)
  return { passedOver, needsDraco: inDraco.size > 0, needsMeshopt }
}

const tooMuch = (n: number) =>
  `unpacks to ${n.toLocaleString('en')} bytes; at most ${FORMAT_LIMITS.unpackedBytes.toLocaleString('en')} are read`

/** @throws FormatError when it is not glTF 2 */
function assertVersion(json: Record<string, unknown>): void {
  const { asset } = json
  const said = typeof asset === 'object' && asset !== null ? (asset as { version?: unknown }).version : undefined
  const version = typeof said === 'number' ? String(said) : said
  // The first version did without an asset, and its lists were objects.
  const first =
    typeof json.meshes === 'object' && json.meshes !== null && !Array.isArray(json.meshes) && !('length' in json.meshes)
  if ((typeof version === 'string' && version.startsWith('1')) || (version === undefined && first))
    throw new FormatError('', GLTF_1)
  if (typeof version === 'string' && !version.startsWith('2'))
    throw new FormatError('asset.version', `is ${JSON.stringify(version.slice(0, 20))}, and only 2.0 is read`)
}

export const GLTF_1 =
  'is glTF 1, which keeps its data otherwise than glTF 2; open it in a modelling program and save it as glTF 2'

/** Takes out of a file all that extensions say and is not read, so that no library looks at it. */
function dropExtensions(json: GLTF.IGLTF): void {
  const only = (holder: { extensions?: Record<string, unknown> } | undefined, kept: readonly string[]) => {
    if (!holder?.extensions) return
    const left = Object.entries(holder.extensions).filter(([key]) => kept.includes(key))
    if (left.length > 0) holder.extensions = Object.fromEntries(left)
    else delete holder.extensions
  }
  for (const list of [json.scenes, json.meshes, json.accessors, json.nodes, json.bufferViews, json.buffers])
    for (const thing of (list ?? []) as { extensions?: Record<string, unknown> }[]) only(thing, [MESHOPT, INSTANCES])
  for (const mesh of json.meshes ?? []) for (const p of mesh.primitives) only(p, [DRACO])
  const read = (list: string[] | undefined) => list?.filter((key) => READ.includes(key))
  json.extensionsUsed = read(json.extensionsUsed)
  json.extensionsRequired = read(json.extensionsRequired)
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

function assertViews({ buffers = [], bufferViews = [], accessors = [] }: Tame, inDraco: ReadonlySet<number>): void {
  let unpacked = 0
  for (const [i, v] of bufferViews.entries()) {
    const held = v.extensions?.[MESHOPT]
    if (held) {
      const at = `bufferViews[${i}]`
      within(buffers, held.buffer, at, 'buffer')
      if ((held.byteOffset ?? 0) + held.byteLength > buffers[held.buffer].byteLength)
        throw new FormatError(at, 'reaches beyond the end of its buffer')
      unpacked += held.count * held.byteStride
      if (unpacked > FORMAT_LIMITS.unpackedBytes) throw new FormatError(at, tooMuch(unpacked))
      if (held.count * held.byteStride > v.byteLength)
        throw new FormatError(at, 'unpacks to more than it says it holds')
    }
    within(buffers, v.buffer, `bufferViews[${i}]`, 'buffer')
    if ((v.byteOffset ?? 0) + v.byteLength > buffers[v.buffer].byteLength)
      throw new FormatError(`bufferViews[${i}]`, 'reaches beyond the end of its buffer')
  }
  for (const [i, a] of accessors.entries()) {
    const at = `accessors[${i}]`
    const size = COMPONENT_BYTES[a.componentType] * COMPONENTS[a.type]
    if (a.sparse) {
      const { count, indices, values } = a.sparse
      if (count > a.count) throw new FormatError(at, `changes ${count} of ${a.count} values`)
      const each = COMPONENT_BYTES[indices.componentType]
      if (!each) throw new FormatError(at, 'has sparse indices of no known kind')
      for (const [part, bytesEach] of [
        [indices, each],
        [values, size],
      ] as const) {
        within(bufferViews, part.bufferView, at, 'buffer view')
        if ((part.byteOffset ?? 0) + count * bytesEach > bufferViews[part.bufferView].byteLength)
          throw new FormatError(at, 'asks for more sparse values than its bytes hold')
      }
    }
    if (a.bufferView === undefined) {
      // Values without data are nought, but for those that are unpacked from elsewhere or changed here and there.
      if (!a.sparse && !inDraco.has(i)) throw new FormatError(at, 'has no data')
      if (a.count * size > FORMAT_LIMITS.unpackedBytes) throw new FormatError(at, tooMuch(a.count * size))
      continue
    }
    within(bufferViews, a.bufferView, at, 'buffer view')
    const view = bufferViews[a.bufferView]
    const needed = (a.byteOffset ?? 0) + (a.count - 1) * Math.max(view.byteStride ?? size, size) + size
    if (needed > view.byteLength)
      throw new FormatError(
        at,
        `asks for ${a.count.toLocaleString('en')} values, more than its ${view.byteLength.toLocaleString('en')} bytes hold`,
      )
  }
}

/** Triangles as they come out, each mesh counted as often as nodes show it. */
function assertTriangles({
  nodes = [],
  meshes = [],
  accessors = [],
  scenes = [],
  skins = [],
  bufferViews = [],
}: Tame): void {
  if (nodes.length > FORMAT_LIMITS.nodes)
    throw new FormatError(
      'nodes',
      `there are ${nodes.length.toLocaleString('en')}; at most ${FORMAT_LIMITS.nodes.toLocaleString('en')} are read`,
    )
  for (const [i, scene] of scenes.entries()) for (const n of scene.nodes ?? []) within(nodes, n, `scenes[${i}]`, 'node')
  const parents = new Map<number, number>()
  for (const [i, node] of nodes.entries()) {
    within(meshes, node.mesh, `nodes[${i}]`, 'mesh')
    within(skins, node.skin, `nodes[${i}]`, 'skin')
    for (const a of Object.values(node.extensions?.[INSTANCES]?.attributes ?? {}))
      within(accessors, a, `nodes[${i}]`, 'accessor')
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
  for (const [i, skin] of skins.entries()) {
    for (const n of skin.joints) within(nodes, n, `skins[${i}]`, 'node')
    within(accessors, skin.inverseBindMatrices, `skins[${i}]`, 'accessor')
    const bind = skin.inverseBindMatrices === undefined ? undefined : accessors[skin.inverseBindMatrices]
    if (bind && bind.type !== 'MAT4')
      throw new FormatError(`skins[${i}]`, 'has bind matrices that are not of 4 × 4 numbers')
  }
  const sizes = meshes.map((mesh, i) => {
    let triangles = 0
    let vertices = 0
    for (const [k, p] of mesh.primitives.entries()) {
      const at = `meshes[${i}].primitives[${k}]`
      for (const a of [
        p.indices,
        ...Object.values(p.attributes),
        ...(p.targets ?? []).flatMap((t) => Object.values(t)),
      ])
        within(accessors, a, at, 'accessor')
      within(bufferViews, p.extensions?.[DRACO]?.bufferView, at, 'buffer view')
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
    const times = instancesOf(node, accessors)
    triangles += times * sizes[node.mesh].triangles
    vertices += times * sizes[node.mesh].vertices
  }
  if (triangles > FORMAT_LIMITS.triangles || vertices > FORMAT_LIMITS.vertices)
    throw new FormatError(
      'meshes',
      `come to ${Math.round(triangles).toLocaleString('en')} triangles with all nodes that show them; at most ${FORMAT_LIMITS.triangles.toLocaleString('en')} are read`,
    )
}

/** How often a node shows its mesh. */
function instancesOf(node: NonNullable<Tame['nodes']>[number], accessors: NonNullable<Tame['accessors']>): number {
  const counts = Object.values(node.extensions?.[INSTANCES]?.attributes ?? {}).map((a) => accessors[a].count)
  return counts.length === 0 ? 1 : Math.max(...counts)
}
