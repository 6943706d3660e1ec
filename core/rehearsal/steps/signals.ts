import { lookAgain, standUntil } from './make-for'
import { plainRow, type StepContext, type StepRun } from './step'

/** Who waits for a signal listens so often, seconds. */
const LISTENS_S = 0.2

const signalOf = ({ registers }: StepContext, id: string | null) => (id === null ? -1 : registers.signals.of(id))

export const giveSignal: StepRun<'give-signal'> = {
  kind: 'give-signal',
  compile: (context, step) => ({
    ...plainRow(step, context.profile.gaitMps),
    signal: signalOf(context, step.signalId),
  }),
  begin(engine, n, { signal }) {
    if (signal < 0) return 'no-signal'
    engine.give(signal)
    engine.log(n, 'signalled', signal)
    return 'done'
  },
  update: () => 'done',
}

export const waitSignal: StepRun<'wait-signal'> = {
  kind: 'wait-signal',
  compile: (context, step) => ({
    ...plainRow(step, context.profile.gaitMps),
    signal: signalOf(context, step.signalId),
    limitS: step.limitS ?? Infinity,
  }),
  begin(engine, n, row) {
    if (row.signal < 0) return 'no-signal'
    standUntil(engine, n, engine.t + LISTENS_S)
    return 'running'
  },
  update(engine, n, row) {
    const { world, t } = engine
    if (engine.givenSince(row.signal, world.stepSince[n])) return 'done'
    if (t - world.stepSince[n] >= row.limitS) return 'no-signal'
    standUntil(engine, n, t + LISTENS_S)
    lookAgain(engine, n, row, LISTENS_S)
    return 'running'
  },
}
