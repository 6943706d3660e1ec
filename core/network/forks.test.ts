import { levelSchema } from '@tidytrail/core/level'
import { sceneLevel } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { forksOf, sharesOf } from '.'

/** A lane along three waypoints, and links that leave it in its middle and at its end. */
const level = (travel: string) =>
  levelSchema.parse(
    sceneLevel(60, 60, {}, {
      waypoints: Object.fromEntries(['a', 'b', 'c', 'd', 'e'].map((k, n) => [`wp_${k}`, { at: [10 * n, 10, 0] }])),
      routes: {
        rt_l: {
          name: 'Lane',
          kind: 'lane',
          travel,
          stops: Object.fromEntries(['a', 'b', 'c'].map((k) => [`st_${k}`, { waypointId: `wp_${k}` }])),
          order: ['st_a', 'st_b', 'st_c'],
        },
      },
      links: {
        ln_2: { fromId: 'wp_b', toId: 'wp_e', twoWay: false, share: 0.5 },
        ln_1: { fromId: 'wp_b', toId: 'wp_d', twoWay: false, share: 1.5 },
        ln_3: { fromId: 'wp_c', toId: 'wp_d', twoWay: false },
        ln_4: { fromId: 'wp_a', toId: 'wp_d', twoWay: true },
      },
    } as never),
  )

it('are the one-way links that leave a place, and the lane that goes on there', () => {
  const forks = forksOf(level('one-way'))
  expect([...forks.keys()].sort()).toEqual(['wp_b', 'wp_c'])
  expect(forks.get('wp_b')).toEqual([
    { linkId: 'ln_1', routeId: null, toId: 'wp_d', share: 1.5 },
    { linkId: 'ln_2', routeId: null, toId: 'wp_e', share: 0.5 },
    { linkId: null, routeId: 'rt_l', toId: 'wp_c', share: 1 },
  ])
  expect(sharesOf(forks.get('wp_b')!)).toBe(3)
  // At its end a lane does not go on; a round does.
  expect(forks.get('wp_c')!.map((w) => w.linkId)).toEqual(['ln_3'])
  expect(
    forksOf(level('round'))
      .get('wp_c')!
      .map((w) => w.toId),
  ).toEqual(['wp_d', 'wp_a'])
})
