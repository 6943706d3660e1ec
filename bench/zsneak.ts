import { DEMO_LEVELS } from '@tidytrail/demo'
import {
  Examined,
  coverage,
  company,
  lookerKeys,
  sneak,
  spotWindows,
  stringLine,
  runFigures,
} from '@tidytrail/core/insight'
import { recordedOf, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { sneakLineSchema, watchSpotSchema } from '@tidytrail/core/level'
const level = DEMO_LEVELS[0].make()
const survey = new Survey()
survey.update(level)
const time = <T>(name: string, f: () => T) => {
  const t = performance.now()
  const v = f()
  console.log(name, (performance.now() - t).toFixed(0), 'ms')
  return v
}
const run = time('run', () => {
  const r = new Run(level, 7, survey)
  r.runTo(300)
  return r
})
console.log('bytes', run.engine.recording.size, run.engine.members.length)
const rec = recordedOf(run)
const keys = lookerKeys(rec, [])
console.log(
  rec.agents
    .filter((a) => keys.has(a.key))
    .map((a) => `${a.key} ${a.name}`)
    .join(', '),
)
const lines: [string, [number, number, number][]][] = [
  [
    'quay',
    [
      [200, 62, 1.2],
      [176, 62, 1.2],
      [140, 56, 1.2],
      [106, 56, 1.2],
      [72, 56, 1.2],
    ],
  ],
  [
    'back',
    [
      [208, 72, 2],
      [176, 92, 1.2],
      [135, 106, 1.2],
      [103, 106, 1.2],
      [72, 106, 1.2],
      [64, 110, 1.2],
    ],
  ],
  [
    'mid',
    [
      [176, 92, 1.2],
      [135, 100, 1.2],
      [103, 104, 1.2],
      [103, 75, 1.2],
      [103, 66, 1.2],
    ],
  ],
  [
    'gap',
    [
      [176, 94, 1.2],
      [150, 107, 1.2],
      [103, 106, 1.2],
      [103, 72, 1.2],
      [72, 70, 1.2],
    ],
  ],
]
for (const [name, points] of lines) {
  const a = time('sneak ' + name, () => sneak(rec, sneakLineSchema.parse({ name, points })))
  console.log(
    a.lengthM.toFixed(0),
    'm',
    JSON.stringify(a.figures),
    'best',
    a.best && [a.best.startS, a.best.endS, a.best.slackS, a.best.tightest.by, a.best.moves.length],
    a.ends,
  )
  console.log(a.starts.map((s) => `${s.from.toFixed(1)}-${s.to.toFixed(1)}`).join(' '))
}
const w = time('spot', () => spotWindows(rec, watchSpotSchema.parse({ name: 's', at: [103, 68, 1.2] })))
console.log(
  JSON.stringify(w.figures),
  w.watched.map((x) => x.key),
  w.open.map((s) => `${s.from.toFixed(1)}-${s.to.toFixed(1)}`).join(' '),
)
if (process.argv[2]) time('coverage', () => coverage(rec))
time('company', () => company(rec, keys))
time('string', () => stringLine(rec, 'rt_quayround'))
time('figures', () => runFigures(new Examined(rec, run.verdicts()), run.hash))
