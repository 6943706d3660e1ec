import { distanceToLine } from '@tidytrail/core/geometry'
import { levelSchema } from '@tidytrail/core/level'
import { preset, travelLevel } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { keepSteered, placesOf, type SteeredPlace } from './keep-steered'

/** East for ten metres, two seconds of standing, then a quarter circle to the north; ten places a second. */
function steered(): SteeredPlace[] {
  const track: SteeredPlace[] = []
  const put = (x: number, y: number, speed: number) => track.push({ t: track.length / 10, x, y, z: 0, speed })
  for (let k = 0; k <= 70; k++) put(20 + k / 7, 20, 1.4)
  for (let k = 0; k < 20; k++) put(30, 20, 0)
  for (let k = 1; k <= 60; k++) {
    const a = (k / 60) * (Math.PI / 2)
    put(30 + 8 * Math.sin(a), 28 - 8 * Math.cos(a), 1.4)
  }
  return track
}

it('what was steered is kept as few places, nowhere far from it, with the pauses in between', () => {
  const track = steered()
  const places = placesOf(track)
  expect(places.length).toBeLessThan(10)
  const line = places.map((p) => p.at)
  for (const { x, y } of track) expect(distanceToLine(line, x, y)).toBeLessThan(0.31)
  expect(places.filter((p) => p.pauseS > 0)).toEqual([{ at: [30, 20, 0], pauseS: 1.9 }])
  expect(placesOf([])).toEqual([])
})

it('becomes a route of its own that the stand-in follows, in a level that may be kept', () => {
  const before = travelLevel(preset('Warden'), [
    [10, 10],
    [40, 10],
  ])
  const kept = keepSteered(before, 'sp_a', steered())!
  const after = kept.edits.reduce((level, edit) => edit(level).level, before)
  expect(levelSchema.parse(after)).toEqual(after)
  const route = after.routes[kept.routeId]
  expect(route).toMatchObject({ name: 'Line of Start 1', legs: 'drawn', travel: 'one-way' })
  expect(route.order.map((s) => route.stops[s].pause.maxS).filter((s) => s > 0)).toEqual([1.9])
  const brief = after.briefs[after.spawners.sp_a.briefId!]
  expect(brief.order.map((s) => brief.steps[s])).toMatchObject([{ kind: 'follow-route', routeId: kept.routeId }])
  expect(keepSteered(before, 'sp_a', steered().slice(0, 1))).toBeUndefined()
  expect(keepSteered(before, 'sp_gone', steered())).toBeUndefined()
})
