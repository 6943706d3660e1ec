import { describe, expect, it } from 'vitest'
import { PRESETS, type Level } from '@tidytrail/core/level'
import { box, follower, net, withRoutes, type Place } from '@tidytrail/core/testing'
import { applyFix, CheckedSurvey, type Finding } from '.'

const cart = PRESETS.find((p) => p.medium === 'wheels')!
const skiff = PRESETS.find((p) => p.medium === 'water')!

const of = (level: Level, check: string): Finding[] =>
  new CheckedSurvey().update(level).filter((f) => f.check === check)

const ring: Place[] = [
  [10, 10, 0],
  [40, 10, 0],
  [40, 40, 0],
  [10, 40, 0],
]
const chain: Place[] = [
  [5, 5, 0],
  [20, 9, 0],
  [35, 5, 0],
  [50, 9, 0],
  [65, 5, 0],
  [80, 9, 0],
  [95, 5, 0],
]

/** A level in which the check finds something, what it says, and whether it can mend it. */
const FAULTS: [check: string, level: Level, message: string, mends: boolean][] = [
  [
    'waypoint.orphan',
    withRoutes({ a: { at: ring } }, { waypoints: { wp_lone: { name: 'Lone', at: [50, 50, 0] } } }),
    'Lone belongs to no route and no link.',
    true,
  ],
  [
    'waypoint.duplicate-place',
    withRoutes({
      a: { at: ring },
      b: {
        at: [
          [40, 10.05, 0],
          [60, 10, 0],
        ],
      },
    }),
    'Stop 2 of a lies at the same place as another waypoint; they are not joined.',
    true,
  ],
  [
    'waypoint.shared-media',
    withRoutes(
      { a: { at: ring }, b: { at: ['wp_a0', [60, 10, 0]], profileIds: ['pf_boat'] } },
      { profiles: { pf_boat: skiff } },
    ),
    'Stop 1 of a is shared by routes for land and water.',
    true,
  ],
  [
    'route.leg-detour',
    withRoutes(
      {
        a: {
          at: [
            [20, 30, 0],
            [24, 30, 0],
          ],
        },
      },
      {},
      { sd_wall: box(21, 5, 23, 55) },
    ),
    'Leg 1 to 2 of a goes 53.13 m round what is 4.00 m away.',
    true,
  ],
  [
    'route.steep',
    withRoutes(
      {
        a: {
          at: [
            [5, 30, 0],
            [19, 30, 6.66],
          ],
        },
      },
      {},
      {
        sd_ramp: {
          shape: 'ramp',
          name: '',
          at: [15, 30],
          sizeX: 10,
          sizeY: 10,
          baseM: 0,
          heightM: 7.4,
          walkable: true,
        },
      },
    ),
    '; Warden manages 38°.',
    false,
  ],
  ['route.not-closed', withRoutes({ a: { at: [...ring, [11, 11, 0]] } }), 'a ends 1.41 m from where it begins', true],
  ['route.not-closed', withRoutes({ a: { at: ring, kind: 'circuit' } }), 'a is a circuit that does not close', true],
  [
    'route.crosses-itself',
    withRoutes({ a: { at: [ring[0], ring[2], ring[1], ring[3]], travel: 'round' } }),
    'a crosses itself: leg 1 to 2 over leg 3 to 4.',
    true,
  ],
  [
    'route.backtrack',
    withRoutes({
      a: {
        at: [
          [10, 10, 0],
          [40, 10, 0],
          [30, 10.1, 0],
          [60, 10, 0],
        ],
      },
    }),
    'a turns back by 179° at stop 2',
    true,
  ],
  [
    'route.name-clash',
    withRoutes({ a: { at: ring, name: 'Quay round' }, b: { at: ring.slice(2), name: ' quay  Round' } }),
    'is the name of another route too',
    true,
  ],
  [
    'route.number-order',
    withRoutes(
      { a: { at: ['wp_x', 'wp_y', 'wp_z'] } },
      {
        waypoints: {
          wp_x: { name: 'Q1', at: ring[0] },
          wp_y: { name: 'Q3', at: ring[1] },
          wp_z: { name: 'Q2', at: ring[2] },
        },
      },
    ),
    'a is travelled from Q3 to Q2.',
    true,
  ],
  [
    'route.number-order',
    withRoutes(
      { a: { at: ['wp_x', 'wp_y', 'wp_z'] } },
      {
        waypoints: {
          wp_x: { name: 'Q9', at: ring[0] },
          wp_y: { name: 'Q8', at: ring[1] },
          wp_z: { name: 'Q7', at: ring[2] },
        },
      },
    ),
    'a is travelled from Q9 down to Q7.',
    true,
  ],
  [
    'route.wrong-medium',
    withRoutes({ a: { at: ring, profileIds: ['pf_cart'] } }, { profiles: { pf_cart: cart }, ...follower('rt_a') }),
    'Warden is told to follow a, which is for',
    true,
  ],
  [
    'route.wrong-medium',
    withRoutes(
      { a: { at: ring } },
      {
        profiles: { pf_boat: skiff },
        settings: { waterLevelM: 0.5, extent: { minX: 0, minY: 0, maxX: 100, maxY: 60 } },
        ...follower('rt_a', 'pf_boat'),
        ground: {
          heights: {
            originX: 0,
            originY: 0,
            spacingM: 50,
            rows: [
              [1, 1, -4],
              [1, 1, -4],
            ],
          },
        },
      },
    ),
    'moves on water, and no stop of a lies there',
    false,
  ],
  [
    'route.gait-missing',
    withRoutes({ a: { at: ring, say: { 2: { gait: 'gallop' } } } }, follower('rt_a')),
    'Stop 3 of a asks for “gallop”',
    true,
  ],
  [
    'route.arrival-orbit',
    withRoutes(
      {
        a: {
          at: [
            [10, 10, 0],
            [30, 10, 0],
            [31, 12.5, 0],
          ],
        },
      },
      { profiles: { pf_cart: { ...cart, turnM: 4 } }, ...follower('rt_a', 'pf_cart') },
    ),
    'comes no nearer to stop 3 of a',
    false,
  ],
  [
    'route.stops-too-close',
    withRoutes({ a: { at: [ring[0], ring[1], [40, 10.2, 0], ring[2]] } }),
    'Stops 2 and 3 of a are 0.20 m apart',
    true,
  ],
  [
    'link.blocked',
    net(
      [
        [10, 30, 0],
        [40, 30, 0],
      ],
      [[0, 1]],
      {},
      { sd_wall: box(20, 10, 22, 50) },
    ),
    'Warden cannot take the link between node 1 of Net and node 2 of Net',
    true,
  ],
  [
    'link.one-way-dead-end',
    net(ring.slice(0, 3), [
      [0, 1],
      [1, 2, false],
    ]),
    'One can get to node 3 of Net and not away: its link is one way.',
    true,
  ],
  [
    'link.missing-return',
    net(
      [...ring, [70, 40, 0]],
      [
        [0, 1],
        [1, 2, false],
        [2, 3],
        [3, 4],
      ],
    ),
    'The link from node 2 of Net to node 3 of Net is one way',
    true,
  ],
  [
    'network.split',
    net(ring, [
      [0, 1],
      [2, 3],
    ]),
    'Net falls into 2 parts that never meet, of 2, 2 nodes.',
    true,
  ],
  [
    'network.unseen-place',
    net(ring.slice(0, 2), [[0, 1]], { markers: { mk_a: { name: 'Crate', at: [80, 50, 0] } } }),
    'No node of Net is at Crate or sees it within 25 m.',
    true,
  ],
  [
    'network.redundant-node',
    net(
      [
        [10, 10, 0],
        [25, 10.5, 0],
        [40, 10, 0],
      ],
      [
        [0, 1],
        [1, 2],
      ],
    ),
    'Node 2 of Net adds nothing',
    true,
  ],
  [
    'network.articulation',
    net(
      chain,
      chain.slice(1).map((_, k) => [k, k + 1]),
    ),
    'without it 3 nodes are cut off',
    false,
  ],
]

describe('the checks of waypoints and routes', () => {
  it.each(FAULTS)('%s', (check, level, message, mends) => {
    const found = of(level, check)
    expect(found.length).toBeGreaterThan(0)
    expect(found.map((f) => f.message).join('\n')).toContain(message)
    expect(found[0].fix !== undefined).toBe(mends)
    if (found[0].fix) expect(of(applyFix(level, found[0].fix).level, check).length).toBeLessThan(found.length)
  })

  it.each([
    [
      'route.backtrack',
      withRoutes({
        a: {
          at: [
            [10, 10, 0],
            [40, 10, 0],
            [20, 10, 0],
          ],
          say: { 1: { pause: { minS: 2, maxS: 2 } } },
        },
      }),
      'one pauses where one turns',
    ],
    ['route.not-closed', withRoutes({ a: { at: ring } }), 'the ends are far apart'],
    ['route.crosses-itself', withRoutes({ a: { at: [ring[0], ring[2], ring[1], ring[3]] } }), 'it is no round'],
    ['route.number-order', withRoutes({ a: { at: ring } }), 'the names have no numbers'],
    [
      'route.arrival-orbit',
      withRoutes({
        a: {
          at: [
            [10, 10, 0],
            [30, 10, 0],
            [31, 12.5, 0],
          ],
        },
      }),
      'one who walks turns on the spot',
    ],
    [
      'network.redundant-node',
      net(
        [
          [10, 10, 0],
          [25, 25, 0],
          [40, 10, 0],
        ],
        [
          [0, 1],
          [1, 2],
        ],
      ),
      'a node stands at a corner',
    ],
    [
      'network.articulation',
      net(ring, [
        [0, 1],
        [1, 2],
        [2, 3],
        [3, 0],
      ]),
      'every node has a way round it',
    ],
    [
      'link.missing-return',
      net(ring, [
        [0, 1, false],
        [1, 2],
        [2, 3],
        [3, 0],
      ]),
      'another way leads back',
    ],
    [
      'network.unseen-place',
      net(ring.slice(0, 2), [[0, 1]], { markers: { mk_a: { name: 'Crate', at: [42, 14, 0] } } }),
      'a node sees the place',
    ],
  ])('%s says nothing where %3$s', (check, level) => {
    expect(of(level, check)).toEqual([])
  })

  it('tell of twins as they come together and part, step by step', () => {
    const survey = new CheckedSurvey()
    const level = withRoutes({
      a: { at: ring },
      b: {
        at: [
          [45, 10, 0],
          [60, 10, 0],
        ],
      },
    })
    const at = (x: number): Level => ({
      ...level,
      waypoints: { ...level.waypoints, wp_b0: { ...level.waypoints.wp_b0, at: [x, 10, 0] } },
    })
    const twins = (l: Level, x: number) =>
      survey
        .update(l, [{ op: 'replace', path: '/waypoints/wp_b0/at', value: [x, 10, 0] }])
        .filter((f) => f.check === 'waypoint.duplicate-place').length
    survey.update(level)
    expect([40.5, 40.05, 40, 39.95, 39.8].map((x) => twins(at(x), x))).toEqual([0, 1, 1, 1, 0])
  })
})
