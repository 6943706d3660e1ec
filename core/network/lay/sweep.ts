import { boxOf, distance2, exact, offsetRing, ringHolds, type Point2 } from '@tidytrail/core/geometry'

/** More places than this are not laid at once. */
export const MOST_PLACES = 5_000

/** So much finer than what is seen are the places at which is tried whether they are seen. */
const FINER = 4
/** Lanes are laid for a sight so much shorter, so that what lies between the places tried is seen too. */
const SURE = 1 - 0.75 / FINER
/** Outlines are laid so much closer than lanes, for the sake of their corners. */
const CORNERS = 0.7

export interface SweepOptions {
  readonly ring: readonly Point2[]
  /** How far to either side of the way one sees, metres. */
  readonly seesM: number
  readonly how: 'lanes' | 'rings'
  /** Direction of the lanes; along the longest side when none is given. */
  readonly angleRad?: number
}

/**
 * Places to go to one after the other so as to see all of an area: to and fro in lanes, or round and round inwards.
 * To what lies farther from the way than one
 * sees the way makes a turn there and back.
 * @throws RangeError when it would take more than MOST_PLACES
 */
export function sweepArea({ ring, seesM, how, angleRad }: SweepOptions): Point2[] {
  const box = boxOf(ring)
  const samples = ((box.maxX - box.minX) * (box.maxY - box.minY) * FINER * FINER) / (seesM * seesM)
  if (samples > MOST_PLACES * FINER * FINER * 4)
    throw new RangeError(`seeing only ${seesM} m this area would take far more than ${MOST_PLACES} places`)
  const sureM = seesM * SURE
  const path = how === 'lanes' ? lanes(ring, sureM, angleRad ?? longestSide(ring)) : rings(ring, sureM)
  return fillIn(ring, sureM, seesM / FINER, path.length > 0 ? path : [ring[0]])
}

function longestSide(ring: readonly Point2[]): number {
  let best = 0
  let angle = 0
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length]
    const length = distance2(p, q)
    if (length <= best + 1e-9) return
    best = length
    angle = exact.atan2(q[1] - p[1], q[0] - p[0])
  })
  return angle
}

/** To and fro: lines across the area, every second one walked back. */
function lanes(ring: readonly Point2[], seesM: number, angle: number): Point2[] {
  const c = exact.cos(angle)
  const s = exact.sin(angle)
  const turned = ring.map(([x, y]): Point2 => [x * c + y * s, -x * s + y * c])
  const back = ([x, y]: Point2): Point2 => [x * c - y * s, x * s + y * c]
  const { minY, maxY } = boxOf(turned)
  const count = Math.max(1, Math.ceil((maxY - minY) / (2 * seesM) - 1e-9))
  const out: Point2[] = []
  for (let k = 0; k < count; k++) {
    const y = minY + ((k + 0.5) * (maxY - minY)) / count
    const cuts: number[] = []
    turned.forEach(([ax, ay], i) => {
      const [bx, by] = turned[(i + 1) % turned.length]
      if (ay > y !== by > y) cuts.push(ax + ((y - ay) / (by - ay)) * (bx - ax))
    })
    cuts.sort((a, b) => a - b)
    const row: Point2[] = []
    for (let i = 0; i + 1 < cuts.length; i += 2) {
      // One sees ahead too, so a lane need not run right to the wall.
      const inset = Math.min(seesM / 2, (cuts[i + 1] - cuts[i]) / 4)
      row.push([cuts[i] + inset, y], [cuts[i + 1] - inset, y])
    }
    if (k % 2 === 1) row.reverse()
    out.push(...row.map(back))
    tooMany(out)
  }
  return out
}

/** Round and round: outlines ever farther inside, each begun where the last one ended. */
function rings(ring: readonly Point2[], seesM: number): Point2[] {
  const out: Point2[] = []
  for (let inset = CORNERS * seesM; ; inset += 2 * CORNERS * seesM) {
    const found = offsetRing(ring, -inset)
    if (found.length === 0) return out
    for (const loop of found) {
      const last = out.at(-1) ?? loop[0]
      const start = loop.reduce((best, p, i) => (distance2(p, last) < distance2(loop[best], last) ? i : best), 0)
      const turned = [...loop.slice(start), ...loop.slice(0, start)]
      out.push(...turned, turned[0])
      tooMany(out)
    }
  }
}

function tooMany(places: readonly unknown[]): void {
  if (places.length > MOST_PLACES) throw new RangeError(`this would take more than ${MOST_PLACES} places`)
}

/** Adds turns there and back to a way until all of the area is seen from it. */
function fillIn(ring: readonly Point2[], seesM: number, step: number, path: Point2[]): Point2[] {
  const out = [...path]
  const look = (x: number, y: number) => {
    let nearest = Infinity
    let leg = 0
    let foot = out[0]
    for (let i = 0; i < out.length; i++) {
      const [ax, ay] = out[i]
      const [bx, by] = out[Math.min(i + 1, out.length - 1)]
      const length2 = (bx - ax) ** 2 + (by - ay) ** 2
      const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length2)) : 0
      const near: Point2 = [ax + t * (bx - ax), ay + t * (by - ay)]
      const m = distance2(near, [x, y])
      if (m >= nearest) continue
      nearest = m
      leg = i
      foot = near
    }
    if (nearest <= seesM) return
    out.splice(leg + 1, 0, foot, [x, y], foot)
    tooMany(out)
  }
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length]
    const pieces = Math.max(1, Math.ceil(distance2(p, q) / step))
    for (let k = 0; k < pieces; k++) look(p[0] + ((q[0] - p[0]) * k) / pieces, p[1] + ((q[1] - p[1]) * k) / pieces)
  })
  const box = boxOf(ring)
  for (let y = box.minY + step / 2; y < box.maxY; y += step)
    for (let x = box.minX + step / 2; x < box.maxX; x += step) if (ringHolds(ring, x, y)) look(x, y)
  return out.filter((p, i) => i === 0 || distance2(p, out[i - 1]) > 1e-6)
}
