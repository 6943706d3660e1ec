import { levelSchema, newStep, type Level } from '@tidytrail/core/level'
import { box, castRows, laneRows, net, planted, sceneLevel, withRoutes } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { CHECKS, CheckedSurvey } from '.'

/**
 * For every check levels with one fault planted: plain, and just beyond what is allowed. And one just within, of which
 * the check must say nothing. What just is depends on the check: a centimetre or two where it measures exactly.
 */
const {
  p,
  line,
  two,
  square,
  told,
  route,
  things,
  marker,
  post,
  spawner,
  wall,
  block,
  slope,
  passage,
  withPassage,
  areas,
  cart,
  rolling,
  paced,
  gaited,
  turned,
  named,
  crossing,
  detour,
  nodes,
  gull,
  shared,
  restricted,
  taught,
  briefed,
  pavement,
} = planted

type Row = [check: string, what: string, plain: Level, beyond: Level, within: Level]

const ROWS: Row[] = [
  [
    'ground.outside-extent',
    'a marker',
    things(marker(p(150, 30))),
    things(marker(p(100.01, 30))),
    things(marker(p(99.99, 30))),
  ],
  ['ground.solid-overlap', 'a post in a block', post(0.2), post(1.74), post(1.76)],
  [
    'reach.none',
    'a body higher than all headroom',
    ...([0.6, 1.89, 1.91].map((m) =>
      levelSchema.parse({
        ...sceneLevel(40, 40, { sd_roof: { ...box(-1, -1, 41, 41, 1), baseM: m, walkable: false } }),
        spawners: spawner(p(20, 20)),
      }),
    ) as [Level, Level, Level]),
  ],
  ['reach.area-profile', 'a stop in the area of others', areas(80), areas(40.4), areas(39.6)],
  [
    'reach.islands',
    'a spawner on a deck',
    ...([1, 0.41, 0.39].map((m) =>
      route(
        [p(10, 30), p(20, 30)],
        {},
        { briefs: told.briefs, spawners: { sp_a: { ...told.spawners.sp_a, at: p(50, 30, m) } } },
        { sd_d: block(m) },
      ),
    ) as [Level, Level, Level]),
  ],
  [
    'reach.passage-loose',
    'an end in the air',
    withPassage(1, passage(p(20, 30, 5), p(50, 30, 1))),
    withPassage(1, passage(p(20, 30, 0.62), p(50, 30, 1))),
    withPassage(1, passage(p(20, 30, 0.58), p(50, 30, 1))),
  ],
  [
    'reach.passage-beyond',
    'a jump too high',
    ...([2, 0.61, 0.59].map((m) =>
      withPassage(m, passage(p(39.4, 30), p(40.4, 30, m), { profileIds: ['pf_warden'] })),
    ) as [Level, Level, Level]),
  ],
  [
    'reach.passage-one-way-trap',
    'a drop nobody comes back from',
    withPassage(1, passage(p(40.4, 30, 1), p(39.4, 30), { kind: 'drop', twoWay: false })),
    withPassage(0.41, passage(p(40.4, 30, 0.41), p(39.4, 30), { kind: 'drop', twoWay: false })),
    withPassage(0.39, passage(p(40.4, 30, 0.39), p(39.4, 30), { kind: 'drop', twoWay: false })),
  ],
  [
    'reach.narrow',
    'a gap hardly wider than the body',
    ...([0.75, 1.08, 1.12].map((m) => route(two, {}, told, wall(m))) as [Level, Level, Level]),
  ],
  [
    'reach.restriction-empty',
    'a route for nobody',
    restricted(true),
    restricted(true),
    restricted(true, ['pf_warden']),
  ],
  [
    'waypoint.floating',
    'a stop in the air',
    ...([5, 0.26, 0.24].map((z) => route([p(10, 30), p(50, 30, z)])) as [Level, Level, Level]),
  ],
  [
    'waypoint.buried',
    'a stop under the ground',
    ...([-5, -0.26, -0.24].map((z) => route([p(10, 30), p(50, 30, z)])) as [Level, Level, Level]),
  ],
  [
    'waypoint.off-reach',
    'a stop too near to a wall',
    ...([29.95, 29.67, 29.64].map((x) => route([p(10, 30), p(x, 30)], {}, told, wall(0))) as [Level, Level, Level]),
  ],
  [
    'waypoint.orphan',
    'a waypoint of no route',
    things({ waypoints: { wp_a: { at: p(10, 10) } } }),
    route(two, {}, { ...told, waypoints: { wp_z: { at: p(10.5, 30) } } }),
    route(['wp_z', p(50, 30)], {}, { ...told, waypoints: { wp_z: { at: p(10, 30) } } }),
  ],
  [
    'waypoint.duplicate-place',
    'two at one place',
    route([p(10, 30), p(50, 30), p(10, 30), p(30, 50)]),
    route([p(10, 30), p(50, 30), p(10.09, 30), p(30, 50)]),
    route([p(10, 30), p(50, 30), p(10.11, 30), p(30, 50)]),
  ],
  [
    'waypoint.shared-media',
    'a stop of walkers and flyers',
    shared(['pf_warden', 'pf_gull']),
    shared(['pf_gull', 'pf_lamp']),
    shared(['pf_warden', 'pf_lamp']),
  ],
  ['route.too-few', 'a route of one stop', route([]), route([p(10, 30)]), route(two)],
  [
    'route.leg-blocked',
    'a gap too narrow',
    ...([0.2, 0.68, 0.72].map((m) => route(two, {}, told, wall(m))) as [Level, Level, Level]),
  ],
  ['route.leg-detour', 'a way round a wall', detour(50), detour(16.2), detour(15.6)],
  ['route.steep', 'a slope hardly less than the steepest', slope(37.5), slope(35.5), slope(34)],
  [
    'route.not-closed',
    'a patrol that ends where it began',
    route([...square, p(10, 11)]),
    route([...square, p(10, 13.98)]),
    route([...square, p(10, 14.02)]),
  ],
  [
    'route.crosses-itself',
    'a round in the form of an eight',
    crossing(10),
    crossing(39.9),
    route(square, { travel: 'round', kind: 'circuit' }),
  ],
  ['route.backtrack', 'a turn right round', turned(180), turned(165.5), turned(164.5)],
  [
    'route.name-clash',
    'two of one name',
    ...(['beat', 'Beat ', 'Beat 2'].map((name) =>
      withRoutes({ a: { at: two, name: 'Beat' }, b: { at: [p(5, 5), p(9, 9)], name } }),
    ) as [Level, Level, Level]),
  ],
  [
    'route.number-order',
    'numbers out of order',
    named('Q1', 'Q9', 'Q3'),
    named('Q1', 'Q2', 'Q2'),
    named('Q1', 'Q2', 'Q3'),
  ],
  ['route.unassigned', 'nobody follows', route(two, {}, {}), taught(null), taught('rt_a')],
  [
    'route.wrong-medium',
    'a route of others',
    route(two, { profileIds: ['pf_gull'] }, { ...told, profiles: gull }),
    route(two, { nobody: true }),
    route(two, { profileIds: ['pf_warden'] }),
  ],
  ['route.gait-missing', 'an unknown gait', gaited('gallop'), gaited('Walk'), gaited('walk')],
  [
    'profile.impossible',
    'a profile that is faster than a step allows',
    paced(31),
    paced(0.35 * 30 + 0.1),
    paced(0.35 * 30 - 0.1),
  ],
  [
    'route.arrival-orbit',
    'a stop inside the turning circle',
    rolling(0),
    rolling(cart.pf_cart.turnM - 1.55),
    rolling(cart.pf_cart.turnM - 1.45),
  ],
  [
    'route.stops-too-close',
    'two stops as near as the arrival radius',
    route(line(10, 10.1, 50)),
    route(line(10, 10.29, 50)),
    route(line(10, 10.31, 50)),
  ],
  [
    'spawner.inside-solid',
    'a spawner in a block',
    ...([1, 1.74, 1.76].map((z) => things({ solids: { sd_b: block(2) }, spawners: spawner(p(50, 30, z)) })) as [
      Level,
      Level,
      Level,
    ]),
  ],
  [
    'spawner.off-reach',
    'a spawner too near to a wall',
    ...([29.9, 29.67, 29.64].map((x) => things({ solids: wall(0), spawners: spawner(p(x, 30)) })) as [
      Level,
      Level,
      Level,
    ]),
  ],
  [
    'spawner.floating',
    'a spawner in the air',
    ...([9, 0.51, 0.49].map((z) => things({ spawners: spawner(p(20, 20, z)) })) as [Level, Level, Level]),
  ],
  ['brief.dangling', 'a step that names no route', taught(null), taught(null, { routes: {} }), taught('rt_a')],
  ['brief.empty', 'a brief of no steps', briefed(), briefed(), briefed(newStep('pause', { forS: 0 }))],
  [
    'brief.no-way-out',
    'a brief that begins with itself',
    briefed(newStep('again')),
    briefed(newStep('again', { times: 1 }), newStep('pause')),
    briefed(newStep('pause', { forS: 0 }), newStep('again')),
  ],
  [
    'brief.unreachable-step',
    'a step after one without end',
    briefed(newStep('leave'), newStep('pause')),
    briefed(newStep('follow-route', { routeId: 'rt_a' }), newStep('leave')),
    briefed(newStep('follow-route', { routeId: 'rt_a', rounds: 1 }), newStep('leave')),
  ],
  [
    'brief.no-lanes',
    'a walk about on lanes',
    briefed(newStep('stroll')),
    pavement(newStep('stroll', { tag: 'quay' }), ['quays']),
    pavement(newStep('stroll', { tag: ' quay ' }), ['market', 'quay']),
  ],
  [
    'brief.no-lanes',
    'a walk about on lanes for others',
    ...[['pf_other'], ['pf_another', 'pf_other'], ['pf_other', 'pf_warden']].map((for_) => pavement(newStep('stroll'), [], for_)) as [Level, Level, Level], // prettier-ignore
  ],
  ...castRows(),
  ...laneRows(),
  [
    'link.blocked',
    'a wall in a link',
    ...([0, 0.68, 0.72].map((m) => net([p(10, 30), p(50, 30)], [[0, 1]], {}, wall(m))) as [Level, Level, Level]),
  ],
  [
    'sneak-line.blocked',
    'a wall in a sneak line',
    ...([0, 0.68, 0.72].map((m) =>
      levelSchema.parse({
        ...things({ spawners: spawner(p(5, 30), { standIn: true }), solids: wall(m) }),
        sneakLines: { sl_a: { name: 'Past', points: [p(10, 30), p(50, 30), p(50, 40)] } },
      }),
    ) as [Level, Level, Level]),
  ],
  [
    'link.missing-return',
    'a one-way link nothing comes back from',
    net(nodes, [
      [0, 1],
      [1, 2, false],
      [2, 3],
    ]),
    net(nodes, [
      [0, 1, false],
      [1, 2],
      [2, 3],
    ]),
    net(nodes, [
      [0, 1],
      [1, 2, false],
      [2, 3],
      [3, 1, false],
    ]),
  ],
  [
    'link.one-way-dead-end',
    'a node one does not get away from',
    net(nodes, [
      [0, 1],
      [1, 2],
      [2, 3, false],
    ]),
    net(nodes, [
      [0, 1],
      [1, 3, false],
      [2, 3, false],
      [1, 2],
    ]),
    net(nodes, [
      [0, 1],
      [1, 2],
      [2, 3, false],
      [3, 0, false],
    ]),
  ],
  [
    'network.split',
    'two parts',
    net(nodes, [
      [0, 1],
      [2, 3],
    ]),
    net(nodes, [
      [0, 1],
      [1, 2],
    ]),
    net(nodes, [
      [0, 1],
      [1, 2],
      [2, 3],
    ]),
  ],
  [
    'network.articulation',
    'a node that holds two parts',
    net(
      [p(10, 10), p(20, 10), p(15, 20), p(30, 25), p(40, 10), p(50, 10), p(45, 20)],
      [
        [0, 1],
        [1, 2],
        [2, 0],
        [2, 3],
        [3, 6],
        [4, 5],
        [5, 6],
        [6, 4],
      ],
    ),
    net(
      [p(10, 10), p(10, 30), p(30, 20), p(50, 10), p(50, 30)],
      [
        [0, 1],
        [1, 2],
        [2, 0],
        [2, 3],
        [3, 4],
        [4, 2],
      ],
    ),
    net(
      [p(10, 20), p(20, 10), p(30, 20), p(40, 10), p(50, 20)],
      [
        [0, 1],
        [1, 2],
        [2, 3],
        [3, 4],
      ],
    ),
  ],
  [
    'network.redundant-node',
    'a node on the straight way',
    net(
      [p(10, 10), p(30, 10), p(50, 10)],
      [
        [0, 1],
        [1, 2],
      ],
    ),
    net(
      [p(10, 10), p(30, 16.2), p(50, 10)],
      [
        [0, 1],
        [1, 2],
      ],
    ),
    net(
      [p(10, 10), p(30, 16.6), p(50, 10)],
      [
        [0, 1],
        [1, 2],
      ],
    ),
  ],
  [
    'network.unseen-place',
    'a place no node sees',
    ...([80, 45.02, 44.98].map((x) => net([p(10, 30), p(20, 30)], [[0, 1]], marker(p(x, 30)))) as [
      Level,
      Level,
      Level,
    ]),
  ],
]

const finds = (level: Level, check: string) => new CheckedSurvey().update(level).some((f) => f.check === check)

it.each(ROWS)('%s: %s is found, plain and just beyond, and not just within', (check, _what, plain, beyond, within) => {
  expect([plain, beyond, within].map((level) => finds(level, check))).toEqual([true, true, false])
})

it('every check has a fault planted', () => {
  const planted = new Set(ROWS.map(([check]) => check))
  expect([...new Set(CHECKS.map((c) => c.id))].filter((id) => !planted.has(id))).toEqual([])
})
