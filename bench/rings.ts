import { levelSchema, type Level, type Spawner } from '@tidytrail/core/level'
import { WAGON, withLanes, withStreams } from '@tidytrail/core/testing'

/** Rings so far apart, each driven round by so many, metres. */
const APART_M = 70
const RADIUS_M = 25
const EACH = 10
const COMES_S = 3
/** A stream comes onto so many lanes at most. */
const MOST_LANES = 500
/** By then all have come, seconds. */
export const ALL_THERE_S = EACH * COMES_S + 5

/** A level of so many vehicles, ten to a ring. */
export function rings(vehicles: number): Level {
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
  const bare = withLanes(lanes, { settings: { cellM: 1, extent: { minX: 0, minY: 0, maxX: sheet, maxY: sheet } } })
  const routes = Object.fromEntries(
    Object.entries(bare.routes).map(([id, r]) => [id, { ...r, travel: 'round', curve: 'smooth' }]),
  )
  const stream: Partial<Spawner> = { perH: 3600 / COMES_S, headways: 'even', untilS: EACH * COMES_S - 1, warm: false }
  const level = withStreams(
    levelSchema.parse({ ...bare, routes }),
    { ...stream, laneIds: [] },
    { ...WAGON, gaits: { drive: 8 } },
  )
  const ids = Object.keys(routes)
  const spawners = Object.fromEntries(
    Array.from({ length: Math.ceil(ids.length / MOST_LANES) }, (_, k) => [
      `sp_${k}`,
      { ...level.spawners.sp_stream, laneIds: ids.slice(k * MOST_LANES, (k + 1) * MOST_LANES) },
    ]),
  )
  return { ...level, spawners }
}
