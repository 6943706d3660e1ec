import type { BriefStep } from '@tidytrail/core/level'
import { hasArrived } from '../travel'
import { STATE } from '../world'
import { headFor, headInto } from './make-for'
import { gaitedRow, placeFor, type StepRun } from './step'

/** Going to a place, whatever for. */
const going = <K extends 'go-to' | 'flee'>(kind: K): StepRun<K> => ({
  kind,
  compile: (context, step) => ({
    ...gaitedRow(step as BriefStep & { gait: string | null }, context.profile),
    ...placeFor(context, step as never),
  }),
  begin(engine, n, row) {
    if (row.area) return headInto(engine, n, row, row.area) ?? 'no-floor'
    return row.place ? headFor(engine, n, row, row.place) : 'no-place'
  },
  update: (engine, n) => (hasArrived(engine, n) || engine.world.state[n] !== STATE.walking ? 'done' : 'running'),
})

export const goTo = going('go-to')
export const flee = going('flee')
