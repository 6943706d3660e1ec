import { distance3 } from '@tidytrail/core/geometry'
import { causeOf, hasArrived, setOut, wayTo } from '../travel'
import { gaitedRow, type StepRun } from './step'

/** Arrival beyond the passage, metres. */
const ARRIVES_M = 0.5

export const usePassage: StepRun<'use-passage'> = {
  kind: 'use-passage',
  compile: (context, step) => ({
    ...gaitedRow(step, context.profile),
    passageId: step.passageId,
  }),
  begin(engine, n, row) {
    const { world } = engine
    const passage = engine.profileOf(n).planner.passages.find((p) => p.id === row.passageId)
    if (!passage) return 'no-passage'
    // From the end that is nearer, where it leads both ways.
    const back =
      passage.twoWay &&
      distance3(passage.to, [world.x[n], world.y[n], world.z[n]]) <
        distance3(passage.from, [world.x[n], world.y[n], world.z[n]])
    const [from, to] = back ? [passage.to, passage.from] : [passage.from, passage.to]
    const way = wayTo(engine, n, from)
    if (!way.found) return causeOf(way)
    const line = [...way.line, to]
    const uses = [
      ...way.uses,
      { passageId: passage.id, kind: passage.kind, at: way.line.length - 1, takesS: passage.takesS },
    ]
    world.arrivalM[n] = ARRIVES_M
    world.toStop[n] = -1
    setOut(engine, n, [{ line, uses, gaitMps: row.gaitMps, stop: -1, extraS: passage.takesS }], true)
    return 'running'
  },
  update: (engine, n) => (hasArrived(engine, n) ? 'done' : 'running'),
}
