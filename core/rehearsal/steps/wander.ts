import { hasArrived } from '../travel'
import { STATE } from '../world'
import type { Engine } from '../engine'
import { headInto, standAWhile, timeEndsAt, timeIsUp } from './make-for'
import { areaFor, gaitedRow, withOptions, type StepEnd, type StepRow, type StepRun } from './step'

export const wander: StepRun<'wander'> = {
  kind: 'wander',
  compile(context, step) {
    const rowIn = (zoneId: string | null): StepRow => ({
      ...gaitedRow(step, context.profile),
      area: areaFor(context.level, zoneId),
      pause: step.pause,
      limitS: step.limitS,
      spawner: step.nearId === null ? -1 : context.registers.spawners.of(step.nearId),
      forS: step.forS ?? 0,
    })
    const row = rowIn(step.zoneId ?? context.zoneId)
    return withOptions(
      row,
      step,
      step.others.map((o) => rowIn(o.zoneId)),
    )
  },
  begin: (engine, n, row) => (row.area ? toAnother(engine, n, row) : 'no-zone'),
  update(engine, n, row) {
    const { world, t } = engine
    if (!row.area) return 'no-zone'
    if (timeIsUp(engine, n, row)) return 'done'
    if (world.state[n] === STATE.walking) {
      if (hasArrived(engine, n)) {
        standAWhile(engine, n, row)
        return 'running'
      }
      return t + 1e-9 >= world.legSince[n] + row.limitS ? toAnother(engine, n, row) : 'running'
    }
    return t + 1e-9 >= world.until[n] ? toAnother(engine, n, row) : 'running'
  },
}

/** Sets out to another place of the zone, drawn evenly over its floors. */
function toAnother(engine: Engine, n: number, row: StepRow): StepEnd {
  if (!headInto(engine, n, row, row.area!)) return 'no-floor'
  const end = timeEndsAt(engine, n, row)
  const limit = engine.t + row.limitS
  engine.world.due[n] = end > 0 ? Math.min(end, limit) : limit
  return 'running'
}
