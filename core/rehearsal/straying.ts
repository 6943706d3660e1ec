import type { Point3 } from '@tidytrail/core/geometry'
import { legPath, type LegPlanner } from '@tidytrail/core/network'
import type { Recorded } from './recorded'
import { FIELD, FRAME_FIELDS } from './recording'
import { STATE } from './world'

/** Stretches of a leg that are told apart are about so long, metres. */
const STRETCH_M = 1
/** More agents in more frames than this are looked at in every second frame, or fewer. */
const MOST_ROWS = 400_000

/** A leg of a route as a line of even stretches, and the farthest anybody was off it along each. Metres. */
export interface StrayedLeg {
  readonly routeId: string
  /** x, y, z of the ends of the stretches. */
  readonly points: Float64Array
  /** Of each stretch; below 0 where nobody has been. */
  readonly offM: Float32Array
}

/**
 * How far agents have strayed from the legs they were to follow, up to a frame.
 * @param plannerFor gives the ways of a profile over the level that was rehearsed
 */
export function straying(
  of: Recorded,
  plannerFor: (profileId: string) => LegPlanner | undefined,
  frames: number,
): StrayedLeg[] {
  const { level } = of
  const legs = new Map<string, StrayedLeg & { readonly ends: readonly Point3[] }>()
  const count = Math.min(frames, of.frameCount)
  const every = Math.max(1, Math.ceil((count * of.agents.length) / MOST_ROWS))
  for (let k = 0; k < count; k += every) {
    const frame = of.frame(k)
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      if (frame[r + FIELD.state] !== STATE.walking || frame[r + FIELD.from] < 0) continue
      const body = frame[r + FIELD.body]
      const routeId = of.routes[frame[r + FIELD.route]]
      const route = level.routes[routeId]
      const planner = plannerFor(of.profiles[body])
      const [from, to] = [frame[r + FIELD.from], frame[r + FIELD.to]]
      if (!route || !planner || from >= route.order.length || to < 0 || to >= route.order.length) continue
      const name = `${routeId} ${body} ${from} ${to}`
      let leg = legs.get(name)
      if (!leg) {
        const path = legPath(planner, route, level.waypoints, from, to)
        const ends = path.found ? stretches(path.line) : []
        leg = {
          routeId,
          ends,
          points: Float64Array.from(ends.flat()),
          offM: new Float32Array(Math.max(0, ends.length - 1)).fill(-1),
        }
        legs.set(name, leg)
      }
      const at = nearest(leg.ends, frame[r + FIELD.x] / 1000, frame[r + FIELD.y] / 1000)
      if (at >= 0) leg.offM[at] = Math.max(leg.offM[at], frame[r + FIELD.off] / 1000)
    }
  }
  return [...legs.values()].map(({ routeId, points, offM }) => ({ routeId, points, offM }))
}

/** The same line in pieces of about even length. */
function stretches(line: readonly Point3[]): Point3[] {
  const out: Point3[] = line.slice(0, 1)
  for (let k = 1; k < line.length; k++) {
    const [a, b] = [line[k - 1], line[k]]
    const m = Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2)
    const parts = Math.max(1, Math.round(m / STRETCH_M))
    for (let q = 1; q <= parts; q++) {
      const share = q / parts
      out.push([a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]), a[2] + share * (b[2] - a[2])])
    }
  }
  return out
}

function nearest(ends: readonly Point3[], x: number, y: number): number {
  let best = -1
  let best2 = Infinity
  for (let k = 1; k < ends.length; k++) {
    const dx = (ends[k - 1][0] + ends[k][0]) / 2 - x
    const dy = (ends[k - 1][1] + ends[k][1]) / 2 - y
    const d2 = dx * dx + dy * dy
    if (d2 < best2) {
      best2 = d2
      best = k - 1
    }
  }
  return best
}
