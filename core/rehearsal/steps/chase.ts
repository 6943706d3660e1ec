import { lookAgain, timeIsUp } from './make-for'
import { AFRESH_S, hasTarget, pursue } from './pursue'
import { gaitedRow, type StepRun } from './step'

export const chase: StepRun<'chase'> = {
  kind: 'chase',
  compile: ({ profile }, step) => ({ ...gaitedRow(step, profile), loseS: step.loseS, forS: step.forS ?? 0 }),
  begin(engine, n, row) {
    if (!hasTarget(engine, n)) return 'nobody'
    lookAgain(engine, n, row, AFRESH_S)
    return pursue(engine, n, row)
  },
  update(engine, n, row) {
    const { world, t } = engine
    if (!hasTarget(engine, n)) return 'nobody'
    if (timeIsUp(engine, n, row) || t - world.seenAt[n] >= row.loseS) return 'done'
    if (engine.slotOf(world.target[n]) < 0) return 'target-gone'
    lookAgain(engine, n, row, AFRESH_S)
    return pursue(engine, n, row)
  },
}
