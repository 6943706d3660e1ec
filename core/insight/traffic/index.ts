import type { Recorded } from '@tidytrail/core/rehearsal'
import { Counting, type CounterFigures } from './counts'
import { gridlocks, type Gridlock } from './gridlock'
import { Queueing, type Approach, type SlowPlace } from './queues'
import { alongLanes } from './walk'

export { counterPlace, HEADWAY_STEP_S, type CounterFigures, type CountSpan } from './counts'
export type { Gridlock } from './gridlock'
export type { Approach, SlowPlace } from './queues'

/** What a recording tells of traffic. */
export interface TrafficFigures {
  readonly counters: Readonly<Record<string, CounterFigures>>
  readonly approaches: readonly Approach[]
  readonly slowest: readonly SlowPlace[]
  readonly gridlocks: readonly Gridlock[]
}

/** Counts, queues and slow places in a recording, told from positions and speeds alone. */
export function trafficFigures(recorded: Recorded): TrafficFigures {
  const counting = new Counting(recorded)
  const queueing = new Queueing(recorded)
  for (const on of alongLanes(recorded)) {
    counting.take(on)
    queueing.take(on)
  }
  return {
    counters: counting.figures(),
    approaches: queueing.approaches(),
    slowest: queueing.slowest(),
    gridlocks: gridlocks(recorded),
  }
}
