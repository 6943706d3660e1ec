import { smallLevel } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { onlyThings } from './only-things'

it('only what is wanted is left of a level, on the waypoints it lies on', () => {
  const level = smallLevel()
  const [routeId] = Object.keys(level.routes)
  const none = onlyThings(level, [])
  expect([Object.keys(none.routes), Object.keys(none.waypoints), Object.keys(none.solids)]).toEqual([[], [], []])
  expect(none.profiles).toBe(level.profiles)
  const one = onlyThings(level, [routeId, 'rt_none'])
  expect(one.routes).toEqual({ [routeId]: level.routes[routeId] })
  const { order, stops } = level.routes[routeId]
  expect(new Set(Object.keys(one.waypoints))).toEqual(new Set(order.map((s) => stops[s].waypointId)))
  expect(onlyThings(level, Object.keys(level.routes)).routes).toEqual(level.routes)
})
