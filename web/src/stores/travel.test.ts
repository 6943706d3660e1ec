import { addRoute, addStop, blankLevel, changeStops, setTravel, type Level } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { useSurveyStore } from './survey'
import { useTravelStore } from './travel'

vi.mock('@vueuse/core', async (original) => ({
  ...(await original<object>()),
  useRafFn: () => ({ pause() {}, resume() {} }),
}))
beforeEach(() => setActivePinia(createPinia()))

/** A route of 14 m legs east and north, travelled at the warden's walk. */
function level(travel: 'one-way' | 'there-and-back', pauseS = 0): Level {
  let l = addRoute.apply(blankLevel('T'), { id: 'rt_a', name: 'A', kind: 'patrol' }).level
  ;[
    [0, 0, 0],
    [14, 0, 0],
    [14, 14, 0],
  ].forEach((at, i) => (l = addStop.apply(l, { routeId: 'rt_a', stopId: `st_${i}`, waypointId: `wp_${i}`, at }).level))
  l = changeStops.apply(l, { stops: { rt_a: ['st_1'] }, set: { pause: { minS: pauseS, maxS: pauseS } } }).level
  return setTravel.apply(l, { routeId: 'rt_a', travel }).level
}
function travelling(l: Level) {
  const places = l.routes.rt_a.order.map((s) => l.waypoints[l.routes.rt_a.stops[s].waypointId].at)
  const paths = legsOf(l.routes.rt_a).map(({ from, to }) => ({
    found: true as const,
    line: [places[from], places[to]],
    lengthM: 14,
    uses: [],
  }))
  useSurveyStore().paths.set('rt_a', { profileId: 'pf_warden', paths, climbM: 0 })
  const travel = useTravelStore()
  travel.start('rt_a')
  const speed = l.profiles.pf_warden.gaits[l.profiles.pf_warden.gait]
  return (metres: number, extraS = 0) => {
    travel.at = metres / speed + extraS
    return travel.moment(l)
  }
}

it('a drop runs along a route at its gait, pauses, and begins again', () => {
  const at = travelling(level('one-way', 6))
  expect(at(7)?.at).toEqual([7, 0, 0])
  expect(at(14, 3)).toMatchObject({ at: [14, 0, 0], text: expect.stringContaining('pauses at 2') })
  expect(at(21, 6)?.at[1]).toBeCloseTo(7, 6)
  expect(at(28 + 7, 6)?.at[0]).toBeCloseTo(7, 6)
})

it('there and back it comes back the way it went', () => {
  const at = travelling(level('there-and-back'))
  expect(at(28 + 7)?.at[1]).toBeCloseTo(7, 6)
  expect(at(28 + 21)?.at).toEqual([expect.closeTo(7, 6), 0, 0])
})

it('nothing runs where the way is not known, or the route is gone', () => {
  const l = level('one-way')
  const at = travelling(l)
  useSurveyStore().paths.delete('rt_a')
  expect(at(7)).toBeUndefined()
  expect(useTravelStore().moment({ ...l, routes: {} })).toBeUndefined()
})
