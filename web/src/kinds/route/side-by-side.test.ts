import { addRoute, addStop, blankLevel, type Level } from '@tidytrail/core/level'
import { expect, it } from 'vitest'
import { APART_PX, besideOneAnother } from './side-by-side'

function routes(...orders: string[]): Level['routes'] {
  let level = blankLevel('B')
  orders.forEach((order, r) => {
    level = addRoute.apply(level, { id: `rt_${r}`, name: `${r}`, kind: 'patrol' }).level
    ;[...order].forEach((w, i) => {
      const args = { routeId: `rt_${r}`, stopId: `st_${r}x${i}`, waypointId: `wp_${w}`, at: [i, r, 0] }
      level = addStop.apply(level, args).level
    })
  })
  return level.routes
}

it('routes over the same leg lie beside one another, whichever way they lead', () => {
  const shifts = besideOneAnother(routes('abc', 'cb', 'xy'))
  const half = APART_PX / 2
  // Left of one direction is right of the other: both are pushed to their own left or right, and so apart.
  expect([...shifts]).toEqual([
    ['rt_0', [0, -half]],
    ['rt_1', [-half]],
  ])
})

it('a third one lies in the middle', () => {
  expect([...besideOneAnother(routes('ab', 'ab', 'ab')).values()].flat()).toEqual([-APART_PX, 0, APART_PX])
})
