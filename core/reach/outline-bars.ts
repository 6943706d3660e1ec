import { boxesMeet, type Box2 } from '@tidytrail/core/geometry'
import {
  floorsAt,
  GROUND,
  heightAt,
  sampleHeight,
  surfaceWalkable,
  topAt,
  type Floor,
  type SolidShape,
} from '@tidytrail/core/ground'
import { cutsOf, RIM, SIDE, type BarList } from './bars'
import type { ReachSource } from './source'

/** How far beside an outline it is asked what lies there, metres: more than the millimetre things are placed to. */
const BESIDE_M = 3e-3
/** Pieces of an outline shorter than this are passed over, metres. */
const LEAST_M = 1e-4
/** Heights so close are the same, metres. */
const EPS = 1e-6

/**
 * The bars an outline of a solid makes: its sides, where they stand in the way of who comes from beside it, and its
 * rims, from which who stands on top may not step. Where what lies beside it can be stepped to it bars nobody.
 */
export function outlineBars(source: ReachSource, k: number, box: Box2, into: BarList): void {
  const { terrain, stepM } = source
  const shape = terrain.solids[k]
  const { ring, flight } = shape
  const climbed = flight !== undefined && flight.riserM <= stepM + EPS
  for (let a = ring.length - 1, b = 0; b < ring.length; a = b++) {
    const [ax, ay] = ring[a]
    const [bx, by] = ring[b]
    const side = { minX: Math.min(ax, bx), minY: Math.min(ay, by), maxX: Math.max(ax, bx), maxY: Math.max(ay, by) }
    if (!boxesMeet(side, box)) continue
    // A step's outline begins at its lower end: the last side is its riser, the second the one it leans on.
    if (
      climbed &&
      ((a === 3 && isStep(terrain.solids[k - 1], flight)) || (a === 1 && isStep(terrain.solids[k + 1], flight)))
    )
      continue
    eachPiece(source, k, ax, ay, bx, by, box, into)
  }
}

const isStep = (other: SolidShape | undefined, flight: SolidShape['flight']) => other?.flight === flight

/** Calls for every piece of a side beside which the same things lie. */
function eachPiece(
  source: ReachSource,
  k: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  box: Box2,
  into: BarList,
): void {
  const { terrain } = source
  const dx = bx - ax
  const dy = by - ay
  const length = Math.sqrt(dx * dx + dy * dy)
  if (length < LEAST_M) return
  const cuts = [0, 1]
  const grown = {
    minX: Math.min(ax, bx) - BESIDE_M,
    minY: Math.min(ay, by) - BESIDE_M,
    maxX: Math.max(ax, bx) + BESIDE_M,
    maxY: Math.max(ay, by) + BESIDE_M,
  }
  for (const other of terrain.near(grown)) if (other !== k) cutsOf(terrain.solids[other].ring, ax, ay, bx, by, cuts)
  groundCuts(source, ax, ay, bx, by, cuts)
  cuts.sort((p, q) => p - q)
  for (let n = 1; n < cuts.length; n++) {
    const [s, t] = [cuts[n - 1], cuts[n]]
    if ((t - s) * length < LEAST_M) continue
    const piece = {
      minX: Math.min(ax + dx * s, ax + dx * t),
      minY: Math.min(ay + dy * s, ay + dy * t),
      maxX: Math.max(ax + dx * s, ax + dx * t),
      maxY: Math.max(ay + dy * s, ay + dy * t),
    }
    if (boxesMeet(piece, box)) takePiece(source, k, ax + dx * s, ay + dy * s, ax + dx * t, ay + dy * t, into)
  }
}

/** Adds cuts so close that the ground, or a mesh, beside a side runs nearly straight between them. */
function groundCuts(
  { terrain, cellM }: ReachSource,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cuts: number[],
): void {
  const { field } = terrain
  const dx = bx - ax
  const dy = by - ay
  const length = Math.sqrt(dx * dx + dy * dy)
  const grown = 1e-3
  const overMesh = terrain.meshes.some(
    ({ box: m }) =>
      m.minX <= Math.max(ax, bx) + grown &&
      m.maxX >= Math.min(ax, bx) - grown &&
      m.minY <= Math.max(ay, by) + grown &&
      m.maxY >= Math.min(ay, by) - grown,
  )
  if (overMesh || (field.columns !== 2 && field.spacingM < 2 * cellM)) {
    const pieces = Math.ceil(length / cellM)
    for (let p = 1; p < pieces; p++) cuts.push(p / pieces)
    return
  }
  if (field.columns === 2) return
  // Where it crosses from one square of the height grid to the next, and half way between.
  const marks = [0, 1]
  for (const [from, run, origin] of [
    [ax, dx, field.originX],
    [ay, dy, field.originY],
  ]) {
    if (Math.abs(run) < 1e-9) continue
    const low = Math.ceil((Math.min(from, from + run) - origin) / field.spacingM)
    const high = Math.floor((Math.max(from, from + run) - origin) / field.spacingM)
    for (let k = low; k <= high; k++) marks.push((origin + k * field.spacingM - from) / run)
  }
  marks.sort((p, q) => p - q)
  for (let k = 1; k < marks.length; k++) cuts.push(marks[k - 1], (marks[k - 1] + marks[k]) / 2)
}

function takePiece(
  source: ReachSource,
  k: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  into: BarList,
): void {
  const { terrain, body, stepM, heightM, radiusM, bandM } = source
  const shape = terrain.solids[k]
  const length = Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2)
  // The outline runs anticlockwise: outside is to the right.
  const nx = ((by - ay) / length) * BESIDE_M
  const ny = (-(bx - ax) / length) * BESIDE_M
  const mx = (ax + bx) / 2
  const my = (ay + by) / 2
  const topA = topAt(shape, ax, ay)
  const topB = topAt(shape, bx, by)
  const low = shape.baseM - heightM
  const getsOverM = body.flies ? bandM[1] - bandM[0] : stepM
  if (!body.stands) {
    into.add(ax, ay, bx, by, [low, topA - getsOverM, low, topB - getsOverM], SIDE, k)
    return
  }
  const outside = floorsAt(terrain, mx + nx, my + ny).filter((f) => standable(source, f, mx + nx, my + ny))
  const topM = (topA + topB) / 2
  let beside: Floor | undefined
  for (const f of outside) if (!beside || Math.abs(f.z - topM) < Math.abs(beside.z - topM)) beside = f
  const inside = floorsAt(terrain, mx - nx, my - ny).find((f) => f.surface === k)
  // Where something else lies on its top it does not matter what that is for.
  const shut = !shape.walkable && inside !== undefined
  const stood = shape.walkable && inside !== undefined && inside.ceilingM - inside.z >= heightM - EPS
  const rise = Math.sqrt(shape.riseX * shape.riseX + shape.riseY * shape.riseY)
  // Who stands on what goes on beside it may be higher or lower there than where the outline is.
  const slackM = stepM + radiusM * Math.max(rise, beside ? riseOf(source, beside, mx, my) : 0) + 0.05
  const besideA = beside ? heightOf(source, beside, ax, ay) : 0
  const besideB = beside ? heightOf(source, beside, bx, by) : 0
  const at = (s: number): [number, number, number, number] => [
    ax + (bx - ax) * s,
    ay + (by - ay) * s,
    topA + (topB - topA) * s,
    besideA + (besideB - besideA) * s,
  ]
  const cuts = [0, 1]
  if (beside && !shut) {
    for (const reach of [stepM, -stepM]) {
      const a = topA - besideA - reach
      const b = topB - besideB - reach
      if (a > 0 !== b > 0) cuts.push(a / (a - b))
    }
    cuts.sort((p, q) => p - q)
  }
  for (let n = 1; n < cuts.length; n++) {
    const middle = at((cuts[n - 1] + cuts[n]) / 2)
    const stepped = beside !== undefined && !shut && Math.abs(middle[2] - middle[3]) <= stepM + EPS
    const [px, py, pTop, pBeside] = at(cuts[n - 1])
    const [qx, qy, qTop, qBeside] = at(cuts[n])
    if ((qx - px) ** 2 + (qy - py) ** 2 < LEAST_M * LEAST_M) continue
    // Nobody steps onto what is not for walking on, however low.
    let pHigh = shut ? pTop : pTop - stepM
    let qHigh = shut ? qTop : qTop - stepM
    if (stepped) {
      pHigh = Math.min(pHigh, pBeside - slackM)
      qHigh = Math.min(qHigh, qBeside - slackM)
    }
    if (pHigh > low || qHigh > low) into.add(px, py, qx, qy, [low, pHigh, low, qHigh], SIDE, k)
    if (stood && !stepped)
      into.add(px, py, qx, qy, [pTop - slackM, pTop + slackM, qTop - slackM, qTop + slackM], RIM, k)
  }
}

const sample = new Float64Array(3)

/** Can a body stand on a floor beside an outline, as far as that is known of the place? */
function standable(source: ReachSource, floor: Floor, x: number, y: number): boolean {
  const { terrain, body, heightM, maxRise, lowestM, waterM, draughtM } = source
  if (floor.ceilingM - floor.z < heightM - EPS) return false
  if (body.floats && floor.z < lowestM && floor.z <= waterM - draughtM && floor.ceilingM > waterM) {
    floor.z = waterM - draughtM
    return true
  }
  if (floor.z < lowestM || !surfaceWalkable(terrain, floor.surface)) return false
  return riseOf(source, floor, x, y) <= maxRise
}

function riseOf({ terrain }: ReachSource, floor: Floor, x: number, y: number): number {
  if (floor.surface >= 0) {
    const { riseX, riseY } = terrain.solids[floor.surface]
    return Math.sqrt(riseX * riseX + riseY * riseY)
  }
  if (floor.surface !== GROUND) return 0
  sampleHeight(terrain.field, x, y, sample)
  return Math.sqrt(sample[1] * sample[1] + sample[2] * sample[2])
}

/** Height of a floor's surface at a place near where it was found, metres. */
function heightOf(
  { terrain, waterM, draughtM, body, lowestM }: ReachSource,
  floor: Floor,
  x: number,
  y: number,
): number {
  if (body.floats && floor.z === waterM - draughtM && floor.z < lowestM) return floor.z
  if (floor.surface >= 0) return topAt(terrain.solids[floor.surface], x, y)
  return floor.surface === GROUND ? heightAt(terrain.field, x, y) : floor.z
}
