import { findingsOfRun, findingsOfTrials, type RunFinding } from '@tidytrail/core/checks'
import { Examined, tryAll } from '@tidytrail/core/insight'
import { recordedOf, type Run } from '@tidytrail/core/rehearsal'
import { framesOf } from './rehearsed'

/** What is found by a run as it stands. @param changes how often its level was changed on the way */
export function foundIn(run: Run, changes = 0): RunFinding[] {
  const frames = framesOf(run)
  const trials = findingsOfTrials(run.level, tryAll(new Examined(recordedOf(run), run.verdicts())))
  const found = findingsOfRun({
    level: run.level,
    t: run.t,
    stepS: 1 / 30,
    verdicts: run.verdicts(),
    events: run.engine.events.list,
    changes,
    nameOf: (key) => run.engine.members.find((m) => m.key === key)?.name,
    placeOf: (key, t) => {
      const row = frames[Math.min(frames.length - 1, Math.round(t * 10))]?.find((r) => r.key === key)
      return row && [row.x, row.y, row.z]
    },
  })
  return [...found, ...trials]
}
