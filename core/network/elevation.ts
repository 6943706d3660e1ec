import { distance2, mix3, type Point3 } from '@tidytrail/core/geometry'
import { floorsAt, floorUnder, heightAt, type Terrain } from '@tidytrail/core/ground'
import type { Route } from '@tidytrail/core/level'
import { passageHeight, type PathAnswer } from '@tidytrail/core/reach'
import { legsOf } from './legs'

/** A line this far from its floor hangs above it or is sunk below it, metres. */
export const OFF_FLOOR_M = 0.25

/** One place along a route, seen from the side. */
export interface ElevationSample {
  /** Metres walked from the first stop. */
  readonly s: number
  readonly at: Point3
  /** Height of the ground, below whatever stands on it. */
  readonly groundM: number
  /** Height of the floor that is walked on. */
  readonly floorM: number
  /** Height of the straight line from stop to stop. */
  readonly lineM: number
  /** Is one in a passage here? */
  readonly passage: boolean
  /** Leg this belongs to, and whether there is a way along it. */
  readonly leg: number
  readonly walked: boolean
}

export interface Elevation {
  readonly samples: readonly ElevationSample[]
  /** Metres walked to each stop, in order; a round has its first stop again at the end. */
  readonly stopsS: readonly number[]
  readonly lengthM: number
}

/** At most so many samples, however long the route. */
const MOST_SAMPLES = 4000

/**
 * A route from the side: the ground, the floor walked on and the line from stop to stop, about every so many metres.
 * @param ways one for each leg
 * @param terrain what one can stand on
 */
export function elevationOf(
  route: Pick<Route, 'order' | 'travel'>,
  places: readonly Point3[],
  paths: readonly PathAnswer[],
  terrain: Terrain,
  everyM = 0.5,
): Elevation {
  const legs = legsOf(route)
  const lines = legs.map((leg, i): readonly Point3[] => {
    const path = paths[i]
    return path?.found ? path.line : [places[leg.from], places[leg.to]]
  })
  const lengths = lines.map((line) => line.reduce((sum, p, i) => (i === 0 ? 0 : sum + distance2(line[i - 1], p)), 0))
  const lengthM = lengths.reduce((a, b) => a + b, 0)
  const step = Math.max(everyM, lengthM / MOST_SAMPLES)
  const samples: ElevationSample[] = []
  const stopsS = [0]
  let s = 0
  legs.forEach((leg, k) => {
    const path = paths[k]
    const from = places[leg.from]
    const to = places[leg.to]
    const line = lines[k]
    let done = 0
    let floorM = from[2]
    line.forEach((p, i) => {
      if (i === 0) return
      const length = distance2(line[i - 1], p)
      const use = path?.found ? path.uses.find((u) => u.at === i - 1) : undefined
      const pieces = Math.max(use ? 6 : 1, Math.ceil(length / step))
      for (let j = i === 1 ? 0 : 1; j <= pieces; j++) {
        const share = j / pieces
        const q = mix3(line[i - 1], p, share)
        const here = floorsAt(terrain, q[0], q[1])
        floorM = use
          ? passageHeight(use.kind, line[i - 1], p, share)
          : floorUnder(here, Math.max(q[2], floorM - 1), 0.6).z
        const along = lengths[k] === 0 ? 0 : (done + length * share) / lengths[k]
        samples.push({
          s: s + done + length * share,
          at: q,
          groundM: heightAt(terrain.field, q[0], q[1]),
          floorM,
          lineM: from[2] + (to[2] - from[2]) * along,
          passage: use !== undefined,
          leg: k,
          walked: path?.found ?? false,
        })
      }
      done += length
    })
    s += lengths[k]
    stopsS.push(s)
  })
  return { samples, stopsS, lengthM }
}
