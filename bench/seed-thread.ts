/** Rehearses seeds in a thread, for the bench: says how each came out. */
import { parentPort } from 'node:worker_threads'
import { Examined, runFigures } from '@tidytrail/core/insight'
import { readLevel } from '@tidytrail/core/level'
import { recordedOf, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'

let ready: { survey: Survey; level: ReturnType<typeof readLevel> } | undefined
parentPort!.on('message', ({ document, seed }: { document?: string; seed?: number }) => {
  if (document) {
    const level = readLevel(JSON.parse(document))
    const survey = new Survey()
    survey.update(level)
    ready = { survey, level }
    parentPort!.postMessage('ready')
  } else if (ready && seed !== undefined) {
    const run = new Run(ready.level, seed, ready.survey)
    run.runTo(ready.level.settings.rehearseS)
    parentPort!.postMessage(runFigures(new Examined(recordedOf(run), run.verdicts()), run.hash).hash)
  }
})
