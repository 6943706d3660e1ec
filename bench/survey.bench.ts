import { CheckedSurvey } from '@tidytrail/core/checks'
import { changeThings, movePlaces, type EditResult, type Level } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { quantile, report, timed } from './measure'

/** From an edit to refreshed reach, ways and findings, as the surveyor works it out; drawing is not in it. */
function editTimes(
  survey: CheckedSurvey,
  level: Level,
  edit: (level: Level, k: number) => EditResult,
  times: number,
): number[] {
  const all: number[] = []
  let now = level
  for (let k = 0; k < times; k++) {
    const result = edit(now, k)
    now = result.level
    all.push(timed(() => survey.update(now, result.patch)).ms)
  }
  survey.update(level)
  return all
}

const dragSolid = (id: string) => (level: Level, k: number) => {
  const solid = level.solids[id]
  if (solid.shape === 'prism') throw new Error('a box was expected')
  const at: [number, number] = [solid.at[0] + (k % 2 ? -1 : 1), solid.at[1]]
  return changeThings.apply(level, { in: 'solids', changes: { [id]: { at } } })
}
const dragStop = (id: string) => (level: Level, k: number) => {
  const [x, y, z] = level.waypoints[id].at
  return movePlaces.apply(level, { places: { [id]: [x + (k % 2 ? -0.5 : 0.5), y, z] } })
}

export function benchSurvey(): void {
  const quay = DEMO_LEVELS[0].make()
  const survey = new CheckedSurvey()
  const cold = timed(() => survey.update(quay)).ms
  const solids = editTimes(survey, quay, dragSolid('sd_crate2'), 60)
  report({
    what: 'Lanternquay: solid dragged to findings, 95th',
    measured: quantile(solids, 0.95),
    unit: 'ms',
    budget: 50,
    reference: `median ${quantile(solids, 0.5).toFixed(1)} ms; from scratch ${Math.round(cold)} ms`,
  })
  const house = editTimes(survey, quay, dragSolid('sd_ware1'), 60)
  report({
    what: 'Lanternquay: warehouse dragged to findings, 95th',
    measured: quantile(house, 0.95),
    unit: 'ms',
    budget: 50,
    reference: `median ${quantile(house, 0.5).toFixed(1)} ms`,
  })
  const stops = editTimes(survey, quay, dragStop('wp_quayround5'), 60)
  report({
    what: 'Lanternquay: stop dragged to findings, 95th',
    measured: quantile(stops, 0.95),
    unit: 'ms',
    budget: 50,
    reference: `median ${quantile(stops, 0.5).toFixed(1)} ms`,
  })
}

export function benchWide(): void {
  const level = DEMO_LEVELS.find((d) => d.slug === 'wide-sallow')!.make()
  const waypoints = Object.keys(level.waypoints).length
  const survey = new CheckedSurvey()
  const all = timed(() => survey.update(level)).ms
  report({
    what: `Wide Sallow, 4 km², ${waypoints} waypoints: all from cold`,
    measured: all / 1000,
    unit: 's',
    reference: `${survey.findings.length} findings`,
  })
  // Everything but the checks is kept from here on: a second runner sees it all for the first time.
  const again = timed(() => survey.recheck()).ms
  report({ what: 'Wide Sallow: all checks from cold, paths known', measured: again, unit: 'ms', budget: 1000 })
  const stops = editTimes(survey, level, dragStop('wp_500x10'), 40)
  report({
    what: 'Wide Sallow: checks after one stop moved, 95th',
    measured: quantile(stops, 0.95),
    unit: 'ms',
    budget: 20,
    reference: `median ${quantile(stops, 0.5).toFixed(1)} ms`,
  })
  const solids = editTimes(survey, level, dragSolid('sd_b801'), 20)
  report({
    what: 'Wide Sallow: solid dragged to findings, 95th',
    measured: quantile(solids, 0.95),
    unit: 'ms',
    budget: 50,
    reference: `median ${quantile(solids, 0.5).toFixed(1)} ms`,
  })
  globalThis.gc?.()
  report({
    what: 'Wide Sallow: memory of level, reach and paths',
    measured: process.memoryUsage().rss / 1048576,
    unit: 'MB',
    budget: 1024,
    reference: 'whole process',
  })
}
