import { changeThings, type Level } from '@tidytrail/core/level'
import { laneNet, usualPhases } from '@tidytrail/core/traffic'
import { withJoins, withJunctions, withRoads } from './lanes-level'

/**
 * A street from west to east, roads m0 and on, with crossroads at places east, metres, each with signals of the usual
 * stages; the roads n0, s0 and on come to them from north and south.
 */
export function signalledStreet(at: readonly number[], speedLimitMps = 10): Level {
  const roads: Record<string, object> = {}
  const ends = [at[0] - 100, ...at, at[at.length - 1] + 100]
  ends.slice(1).forEach((x, k) => {
    const [from, to] = [ends[k] + (k === 0 ? 0 : 11), x - (k === ends.length - 2 ? 0 : 11)]
    roads[`m${k}`] = { points: [[from, 200, 0], [to, 200, 0]], speedLimitMps } // prettier-ignore
  })
  at.forEach((x, k) => {
    roads[`n${k}`] = { points: [[x, 280, 0], [x, 211, 0]] } // prettier-ignore
    roads[`s${k}`] = { points: [[x, 120, 0], [x, 189, 0]] } // prettier-ignore
  })
  let level = withJunctions(withJoins(withRoads(roads)))
  for (const id of Object.keys(level.junctions)) {
    const set = (values: object) =>
      (level = changeThings.apply(level, { in: 'junctions', changes: { [id]: values } }).level)
    set({ control: 'signals' })
    set({ phases: usualPhases(level, laneNet(level), level.junctions[id]) })
  }
  return level
}
