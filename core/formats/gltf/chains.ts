import { boxOf, exact, toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import type { LaneMap, MapLane } from '@tidytrail/core/traffic'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { partsOf } from './parts'
import { gltfFile, type GltfFile } from './tame'

/** A lane is so wide where nothing says how wide it is, metres. */
const WIDE_M = 3
/** Places nearer to each other than this are one, metres. */
const SAME_M = 0.01

type Matrix = readonly number[]
const SAME: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

type Node = NonNullable<GltfFile['nodes']>[number]

/** Is a node nothing but a place, with none in it? */
const isEnd = (node: Node | undefined): boolean =>
  node !== undefined && node.mesh === undefined && !node.children?.length

const called = ({ name }: Node): string => (typeof name === 'string' ? name : '')

interface Chain {
  readonly name: string
  readonly nodes: readonly number[]
}

/**
 * Chains of nodes that are nothing but places: those in one node, in their order; of those in none, the ones whose names
 * differ by a number at their end only.
 */
export function chainsOf({ nodes = [], scenes = [], scene = 0 }: GltfFile): Chain[] {
  const chains: Chain[] = []
  nodes.forEach((node, k) => {
    const own = (node.children ?? []).filter((c) => isEnd(nodes[c]))
    if (own.length > 1) chains.push({ name: called(node) || `Chain ${k + 1}`, nodes: own })
  })
  const roots =
    scenes[scene]?.nodes ?? nodes.map((_, k) => k).filter((k) => !nodes.some((n) => n.children?.includes(k)))
  const free = new Map<string, number[]>()
  for (const k of roots) {
    if (!isEnd(nodes[k])) continue
    const name = called(nodes[k]).replace(/[\s._-]*\d+$/, '')
    free.set(name, [...(free.get(name) ?? []), k])
  }
  for (const [name, own] of free) if (own.length > 1) chains.push({ name: name || 'Chain', nodes: own })
  return chains
}

/** What may be in a file: chains of places, meshes, both or neither. @throws FormatError when it is no glTF */
export function looksLike(bytes: Uint8Array): { chains: boolean; meshes: boolean } {
  const file = gltfFile(partsOf(bytes).json)
  return { chains: chainsOf(file).length > 0, meshes: (file.meshes ?? []).length > 0 }
}

/**
 * Lanes from chains of nodes of a glTF 2.0 file (Khronos 2021), each in the order of its nodes. Its up is y, ours is z.
 * Metres about the middle of what it holds.
 * @throws FormatError with what is wrong
 */
export function readChains(bytes: Uint8Array): LaneMap {
  const file = gltfFile(partsOf(bytes).json)
  const chains = chainsOf(file)
  if (chains.length === 0) throw new FormatError('', 'has no chain of nodes that are nothing but places')
  if (chains.reduce((n, c) => n + c.nodes.length, 0) > FORMAT_LIMITS.features)
    throw new FormatError('', `has more than ${FORMAT_LIMITS.features.toLocaleString('en')} nodes in its chains`)
  const whole = worldMatrices(file)
  const repairs: string[] = []
  const found = chains.flatMap(({ name, nodes }): { name: string; points: Point3[] }[] => {
    const points: Point3[] = []
    for (const k of nodes) {
      const m = whole.get(k)
      if (!m || !m.every((v) => Number.isFinite(v))) throw new FormatError(`node ${k}`, 'lies at no place')
      const p: Point3 = [m[12], -m[14], m[13]]
      const last = points[points.length - 1]
      if (!last || exact.hypot(p[0] - last[0], p[1] - last[1]) > SAME_M) points.push(p)
    }
    if (points.length > 1) return [{ name: name.slice(0, 200), points }]
    repairs.push(`the nodes of ${name.slice(0, 60)} lie at one place; it was left out`)
    return []
  })
  if (found.length === 0) throw new FormatError('', 'has no chain that leads anywhere')
  const box = boxOf(found.flatMap((c) => c.points))
  const [mx, my] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  const lanes = found.map(({ name, points }, k): MapLane => ({
    key: String(k),
    name,
    use: 'drive',
    points: points.map(([x, y, z]): Point3 => [toMillimetre(x - mx), toMillimetre(y - my), toMillimetre(z)]),
    widthM: WIDE_M,
    speedLimitMps: null,
    noChange: [],
  }))
  const wide = [box.maxX - box.minX, box.maxY - box.minY] as const
  return { lanes, joins: [], priorities: [], junctions: [], drivesOn: undefined, repairs, wide }
}

/** Where each node lies in its scene. A node that is in itself lies nowhere. */
function worldMatrices({ nodes = [] }: GltfFile): Map<number, Matrix> {
  const parent = new Map<number, number>()
  nodes.forEach((node, k) => node.children?.forEach((c) => parent.set(c, k)))
  const found = new Map<number, Matrix>()
  nodes.forEach((_, k) => {
    const up: number[] = []
    let at: number | undefined = k
    while (at !== undefined && !found.has(at) && !up.includes(at)) {
      up.push(at)
      at = parent.get(at)
    }
    if (at !== undefined && up.includes(at)) throw new FormatError(`node ${at}`, 'is a part of itself')
    let m = at === undefined ? SAME : found.get(at)!
    for (const n of up.reverse()) found.set(n, (m = times(m, ownMatrix(nodes[n]))))
  })
  return found
}

function ownMatrix({ matrix, translation, rotation, scale }: Node): Matrix {
  if (matrix) return matrix
  const [tx, ty, tz] = translation ?? [0, 0, 0]
  const [x, y, z, w] = rotation ?? [0, 0, 0, 1]
  const [sx, sy, sz] = scale ?? [1, 1, 1]
  // Of a quaternion (Shoemake 1985), column by column.
  return [
    sx * (1 - 2 * (y * y + z * z)), sx * 2 * (x * y + z * w), sx * 2 * (x * z - y * w), 0,
    sy * 2 * (x * y - z * w), sy * (1 - 2 * (x * x + z * z)), sy * 2 * (y * z + x * w), 0,
    sz * 2 * (x * z + y * w), sz * 2 * (y * z - x * w), sz * (1 - 2 * (x * x + y * y)), 0,
    tx, ty, tz, 1,
  ] // prettier-ignore
}

const times = (a: Matrix, b: Matrix): Matrix =>
  Array.from({ length: 16 }, (_, k) => {
    const [column, row] = [Math.floor(k / 4), k % 4]
    return [0, 1, 2, 3].reduce((sum, q) => sum + a[4 * q + row] * b[4 * column + q], 0)
  })
