import { levelSchema, type Level } from '@tidytrail/core/level'
import { Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { WAGON, withLanes, withStreams } from '@tidytrail/core/testing'
import { report, timed } from './measure'

/** Rings so far apart, each driven round by so many, metres. */
const APART_M = 70
const RADIUS_M = 25
const EACH = 10
const COMES_S = 3
const SECONDS = 10

/** A level of so many vehicles, ten to a ring. */
function rings(vehicles: number): Level {
  const count = Math.ceil(vehicles / EACH)
  const side = Math.ceil(Math.sqrt(count))
  const corners = 16
  const lanes: Parameters<typeof withLanes>[0] = {}
  for (let k = 0; k < count; k++) {
    const [x, y] = [(k % side) * APART_M + 40, Math.floor(k / side) * APART_M + 40]
    lanes[`r${k}`] = Array.from({ length: corners }, (_, c): [number, number, number] => {
      const rad = (2 * Math.PI * c) / corners
      return [x + RADIUS_M * Math.cos(rad), y + RADIUS_M * Math.sin(rad), 0]
    })
  }
  const sheet = side * APART_M + 20
  const bare = withLanes(lanes, { settings: { cellM: 0.5, extent: { minX: 0, minY: 0, maxX: sheet, maxY: sheet } } })
  const routes = Object.fromEntries(
    Object.entries(bare.routes).map(([id, r]) => [id, { ...r, travel: 'round', curve: 'smooth' }]),
  )
  const stream = { laneIds: Object.keys(routes), perH: 3600 / COMES_S, headways: 'even', untilS: EACH * COMES_S - 1, warm: false } as const // prettier-ignore
  return withStreams(levelSchema.parse({ ...bare, routes }), stream, { ...WAGON, gaits: { drive: 8 } })
}

/** Vehicles that drive behind each other along lanes, beside walkers far apart. */
export function benchDriving(): void {
  for (const vehicles of [100, 1000, 5000]) {
    const level = rings(vehicles)
    const survey = new Survey()
    survey.update(level)
    const run = new Run(level, 1, survey)
    run.runTo(EACH * COMES_S + 5)
    const { count } = run.engine.world
    const { ms } = timed(() => run.runTo(EACH * COMES_S + 5 + SECONDS))
    report({
      what: `rehearsal, ${count.toLocaleString('en')} vehicles along lanes`,
      measured: (count * SECONDS * level.settings.stepsPerSecond) / (ms / 1000),
      unit: 'agent-steps/s',
      budget: 1_000_000,
      less: false,
    })
  }
}
