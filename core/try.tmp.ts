import { DEMO_LEVELS } from '../demo'
import { rehearseLevel } from '@tidytrail/core/rehearsal'
for (const d of DEMO_LEVELS) {
  if (process.argv[2] && !d.slug.includes(process.argv[2])) continue
  const level = d.make()
  const t = performance.now()
  const { run, report } = rehearseLevel(level)
  const ms = performance.now() - t
  console.log(
    d.slug,
    report.hash,
    ms.toFixed(0),
    'ms',
    run.engine.recording.size,
    'bytes',
    run.engine.events.list.length,
    'events',
  )
  const tally: Record<string, number> = {}
  for (const v of report.verdicts) tally[v.verdict] = (tally[v.verdict] ?? 0) + 1
  console.log(tally)
  for (const v of report.verdicts.slice(0, 14))
    console.log(
      '  ',
      v.name,
      v.routeName,
      v.verdict,
      JSON.stringify(v.stops),
      v.crossTrack.p95.toFixed(2),
      v.crossTrack.max.toFixed(2),
      v.legs.tookS.toFixed(0),
      v.legs.expectedS.toFixed(0),
      v.reasons.join('; '),
    )
}
