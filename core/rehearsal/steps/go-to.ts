import { causeOf, hasArrived, setOut, wayTo } from '../travel'
import { gaitOf, plainRow, type StepRun } from './step'

/** Arrival at a place that is no stop, metres. */
const ARRIVES_M = 0.5

export const goTo: StepRun<'go-to'> = {
  kind: 'go-to',
  compile: (level, step, profile) => ({
    ...plainRow('go-to', gaitOf(profile, step.gait)),
    lacksGait: step.gait !== null && profile.profile.gaits[step.gait] === undefined,
    place: step.markerId === null ? undefined : level.markers[step.markerId]?.at,
  }),
  begin(engine, n, row) {
    if (!row.place) return 'no-place'
    const way = wayTo(engine, n, row.place)
    if (!way.found) return causeOf(way)
    engine.world.arrivalM[n] = ARRIVES_M
    setOut(engine, n, [{ line: way.line, uses: way.uses, gaitMps: row.gaitMps, stop: -1, extraS: 0 }], true)
    return 'running'
  },
  update: (engine, n) => (hasArrived(engine, n) ? 'done' : 'running'),
}
