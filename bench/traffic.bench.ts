import { CheckedSurvey } from '@tidytrail/core/checks'
import { addThings, changeThings, blankLevel, levelSchema, roadSchema, type Level } from '@tidytrail/core/level'
import { laneNet, suggestJoins, suggestJunctions, usualYields } from '@tidytrail/core/traffic'
import { addLinks } from '@tidytrail/core/level'
import { quantile, report } from './measure'

/** Crossroads on a square grid, so many a side and so far apart, metres. */
const SIDE = 15
const APART_M = 90
/** Roads end so far before the middle of a crossing, metres. */
const ENDS_M = 16
const EDITS = 24

/** A district: a road of two lanes each way between any two crossings side by side. */
function roads(): { in: 'roads'; id: string; thing: unknown }[] {
  const made: { in: 'roads'; id: string; thing: unknown }[] = []
  const put = (x: number, y: number, dx: number, dy: number) => {
    const at = (m: number) => [50 + x * APART_M + dx * m, 50 + y * APART_M + dy * m, 0]
    made.push({
      in: 'roads',
      id: `rd_${dx}${x}x${y}`,
      thing: roadSchema.parse({
        name: `Road ${made.length + 1}`,
        points: [at(ENDS_M), at(APART_M / 2), at(APART_M - ENDS_M)],
        ahead: 2,
        back: 2,
        laneM: 3,
      }),
    })
  }
  for (let x = 0; x < SIDE; x++)
    for (let y = 0; y < SIDE; y++) {
      if (x + 1 < SIDE) put(x, y, 1, 0)
      if (y + 1 < SIDE) put(x, y, 0, 1)
    }
  return made
}

/** Making a district of lanes and junctions by what is suggested, and what an edit in it costs. */
export function benchTraffic(): void {
  const sheet = 100 + (SIDE - 1) * APART_M
  let level: Level = { ...blankLevel('District', sheet, sheet), profiles: {} }
  const timed = <T>(name: string, work: () => T, about: (made: T) => string): T => {
    const began = performance.now()
    const made = work()
    report({ what: name, measured: performance.now() - began, unit: 'ms', reference: about(made) })
    return made
  }
  level = timed(
    'district: laying its roads',
    () => addThings.apply(level, { things: roads() }).level,
    (l) => `${Object.keys(l.roads).length} roads, ${Object.keys(l.routes).length} lanes`,
  )
  const joins = timed(
    'the joins that fit',
    () => suggestJoins(laneNet(level), 'left'),
    (j) => `${j.length} joins`,
  )
  const links = joins.map((s, k) => ({ id: `ln_${k}`, fromId: s.fromWaypointId, toId: s.toWaypointId, twoWay: false }))
  level = addLinks.apply(level, { links }).level
  const sites = timed(
    'the junctions there could be',
    () => suggestJunctions(level, laneNet(level)),
    (s) => `${s.length} junctions`,
  )
  const ids = sites.map((_, k) => `jn_${k}`)
  level = timed(
    'who gives way to whom at all of them',
    () => {
      const made = levelSchema.shape.junctions.parse(
        Object.fromEntries(
          sites.map(({ ring }, k) => [
            ids[k],
            { name: `Junction ${k + 1}`, ring: ring.map(([x, y]) => [x, y]), control: 'give-way' },
          ]),
        ),
      )
      const things = ids.map((id) => ({
        in: 'junctions' as const,
        id,
        thing: { ...made[id], yields: usualYields(level, laneNet(level), made[id]) },
      }))
      return addThings.apply(level, { things }).level
    },
    (l) => `${Object.values(l.junctions).reduce((sum, j) => sum + j.yields.length, 0)} pairs`,
  )
  const survey = new CheckedSurvey()
  timed(
    'all checks from cold',
    () => survey.update(level),
    (f) => `${f.length} findings`,
  )
  const times: number[] = []
  const laying: number[] = []
  const [roadId] = Object.keys(level.roads).slice(Math.floor(Object.keys(level.roads).length / 2))
  for (let k = 0; k < EDITS; k++) {
    const points = level.roads[roadId].points.map(([x, y, z], i): [number, number, number] => [
      x,
      i === 1 ? y + (k % 2 ? 1 : -1) : y,
      z,
    ])
    const began = performance.now()
    level = changeThings.apply(level, { in: 'roads', changes: { [roadId]: { points } } }).level
    const laid = performance.now()
    survey.update(level)
    laying.push(laid - began)
    times.push(performance.now() - laid)
  }
  report({
    what: 'a place of a road moved: its lanes laid anew, 95th',
    measured: quantile(laying, 0.95),
    unit: 'ms',
    budget: 8,
  })
  report({
    what: 'the same: checks after it, 95th',
    measured: quantile(times, 0.95),
    unit: 'ms',
    budget: 20,
    reference: `median ${quantile(times, 0.5).toFixed(1)} ms`,
  })
}
