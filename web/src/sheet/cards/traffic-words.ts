import { distance2, boxOf, type Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { LIMITS } from '@tidytrail/core/rehearsal'
import { laneNet, lightAt, stageAt, untilGreenS, waysOf } from '@tidytrail/core/traffic'
import { metres, seconds } from '../../ui/figures'

/** Where somebody is, and what held it back. */
interface Held {
  readonly at: Point3
  readonly routeId: string | null
  readonly limit: number
  readonly t: number
  /** Who is in front or is waited for: where, and how wide both are together. */
  readonly other?: { readonly at: Point3; readonly mps: number; readonly apartM: number }
}

/** More about what holds somebody back in traffic: the gap to who is in front, and what its signal will do. */
export function trafficWords(level: Level, { at, routeId, limit, t, other }: Held): string {
  switch (LIMITS[limit]) {
    case 'queue':
      return other
        ? `${metres(Math.max(0, distance2(at, other.at) - other.apartM))} behind, ${speedWords(other.mps)}`
        : ''
    case 'give-way':
      return other ? `${metres(distance2(at, other.at))} away, ${speedWords(other.mps)}` : ''
    case 'signal':
      return signalWords(level, at, routeId, t)
    default:
      return ''
  }
}

const speedWords = (mps: number) => (mps < 0.1 ? 'which stands' : `which does ${mps.toFixed(1)} m/s`)

/** Which stage the signals of the junction ahead are in, and when a way out of this lane has green. */
function signalWords(level: Level, at: Point3, routeId: string | null, t: number): string {
  const net = laneNet(level)
  let words = ''
  let nearest = Infinity
  for (const id of Object.keys(level.junctions).sort()) {
    const junction = level.junctions[id]
    if (junction.control !== 'signals') continue
    const { minX, minY, maxX, maxY } = boxOf(junction.ring)
    const far = distance2(at, [(minX + maxX) / 2, (minY + maxY) / 2, 0])
    if (far >= nearest) continue
    const own = waysOf(level, net, junction).filter((w) => w.from === routeId && lightAt(junction, w.id, t) !== 'green')
    if (own.length === 0) continue
    const stage = stageAt(junction, t)
    const waits = Math.min(...own.map((w) => untilGreenS(junction, w.id, t)))
    const green = waits === Infinity ? 'it never has green' : `green in ${seconds(waits)}`
    nearest = far
    words = stage
      ? `${junction.name}: stage ${stage.index + 1} of ${junction.phases.length}, ${green}`
      : `${junction.name} shows red to all`
  }
  return words
}
