/** Levels with one fault of lanes or junctions planted: plain, just beyond what is allowed, and just within. */
import {
  addLinks,
  blankLevel,
  levelSchema,
  type Junction,
  type Level,
  type LevelInput,
  type Profile,
  type Road,
} from '@tidytrail/core/level'
import { laneNet, pairKey, pairsOf, usualYields, watchOf, waysOf, yieldIn, yieldKey } from '@tidytrail/core/traffic'
import { crossroads, withLanes, withRoads } from './lanes-level'
import { follower } from './route-levels'
import { box } from './scenes'
import { withStreams } from './traffic'

/** Somebody of no body yet who follows the first lane. */
const told = (): Partial<LevelInput> => {
  const { briefs, spawners } = follower('rt_a')
  return { briefs, spawners: { sp_a: { ...spawners.sp_a, profileId: null } } }
}

type Row = [check: string, what: string, plain: Level, beyond: Level, within: Level]
type Place = [number, number, number]

const lane = (x: number, toX: number, y = 100): Place[] => [
  [x, y, 0],
  [toX, y, 0],
]
const three = (figures: readonly [number, number, number], make: (figure: number) => Level): [Level, Level, Level] => [
  make(figures[0]),
  make(figures[1]),
  make(figures[2]),
]
const linked = (level: Level, fromId: string, toId: string) =>
  addLinks.apply(level, { links: [{ id: 'ln_a', fromId, toId, twoWay: false }] }).level

/** Two lanes that cross, the second so high above the first, and a junction about them that says something. */
function crossing(overM: number, junction?: Partial<Junction> | ((ids: [string, string]) => Partial<Junction>)): Level {
  const level = withLanes({
    a: lane(50, 150),
    b: [
      [100, 50, overM],
      [100, 150, overM],
    ],
  })
  if (!junction) return level
  const said = typeof junction === 'function' ? junction(['rt_a', 'rt_b']) : junction
  const ring: [number, number][] = [
    [90, 90],
    [110, 90],
    [110, 110],
    [90, 110],
  ]
  const junctions: LevelInput['junctions'] = { jn_a: { name: 'Crossing', ring, ...said } }
  return levelSchema.parse({ ...level, junctions })
}

/** Two lanes that cross, and a lane 3 m wide that is walked along over the first of them at a place east; green for those who walk as told. */
function walked(x: number, phases: (ids: [string, string], walk: string) => Junction['phases']): Level {
  const level = crossing(0, (ids) => ({ control: 'signals', phases: phases(ids, 'rt_k') }))
  const over = withLanes({ k: [[x, 90, 0], [x, 110, 0]] }) // prettier-ignore
  const walk = { ...over.routes.rt_k, use: 'walk' as const }
  return { ...level, waypoints: { ...level.waypoints, ...over.waypoints }, routes: { ...level.routes, rt_k: walk } }
}

const both = (greenS: number, laneIds: string[]) => ({ name: '', greenS, amberS: 3, allRedS: 2, linkIds: [], laneIds })

/** A crossroads at which those that go straight on each give way to one of the others. */
function round(count: number, stops = false): Level {
  const level = crossroads()
  const ways = waysOf(level, laneNet(level), level.junctions.jn_0).filter((w) => Math.abs(w.turnRad) < 0.5)
  const turn = [...ways].sort((a, b) => a.inRad - b.inRad)
  const yields = turn.slice(0, count).map((w, k) => ({
    linkId: w.id,
    laneId: null,
    toLinkId: turn[(k + 1) % turn.length].id,
    toLaneId: null,
    stops,
    watchM: null,
  }))
  return { ...level, junctions: { jn_0: { ...level.junctions.jn_0, control: 'give-way', yields } } }
}

/** A crossroads settled as usual, at which one watches so much more than it needs. */
function watching(moreM: number): Level {
  const level = crossroads()
  const net = laneNet(level)
  const { jn_0 } = level.junctions
  const junction = { ...jn_0, control: 'give-way' as const, yields: usualYields(level, net, jn_0) }
  const key = yieldKey(junction.yields[0])
  const pair = pairsOf(level, net, junction).find((p) => {
    const waits = yieldIn(p)
    return waits && pairKey(waits.own.id, waits.other.id) === key
  })!
  const watchM = watchOf(level, net, pair)!.needM + moreM
  const yields = junction.yields.map((y) => (yieldKey(y) === key ? { ...y, watchM } : y))
  return { ...level, junctions: { jn_0: { ...junction, yields } } }
}

const track = (road: Partial<Road>, profile: Partial<Profile>): Level => {
  const bare = { ...blankLevel('Track', 220, 120), profiles: {} }
  const laid = withRoads({ a: { points: [[10, 50, 0], [200, 50, 0]], track: true, ...road } }, bare) // prettier-ignore
  const routes = Object.fromEntries(Object.entries(laid.routes).map(([id, r]) => [id, { ...r, atEnd: 'leave' as const }])) // prettier-ignore
  return withStreams({ ...laid, routes }, {}, profile)
}

/** A lane with a stream, another it leads into, a turning circle after that, and a wall from so far beside the second on, or as far behind its end. */
const walled = (m: number, behind = false): Level => {
  const wall = behind ? box(90 + m, 60, 94 + m, 160) : box(62, 100 + m, 68, 104 + m)
  const bare = withLanes(
    { a: lane(10, 50), b: lane(53, 90), c: lane(90, 53, 112) },
    { ...blankLevel('Walled', 140, 200), profiles: {}, solids: { sd_wall: wall } },
  )
  const links = [
    { id: 'ln_a', fromId: 'wp_a1', toId: 'wp_b0', twoWay: false },
    { id: 'ln_b', fromId: 'wp_b1', toId: 'wp_c0', twoWay: false, turnM: 8 },
  ]
  const joined = addLinks.apply(bare, { links }).level
  const level = withStreams(joined, { laneIds: ['rt_a'], mix: [{ profileId: 'pf_wide', weight: 1, factionId: null, briefId: null }] }, { radiusM: 0.5 }) // prettier-ignore
  const { pf_w } = level.profiles
  return { ...level, profiles: { ...level.profiles, pf_wide: { ...pf_w, name: 'Wide wagon', radiusM: 1 } } }
}

const withHalt = (level: Level, halt: { where: 'on' | 'left'; fromM: number; toM: number; placeM?: number }): Level =>
  levelSchema.parse({ ...level, routes: { ...level.routes, rt_a: { ...level.routes.rt_a, halts: [halt] } } })

export const laneRows = (): Row[] => [
  [
    'lane.backwards',
    'the middle one of three',
    ...three([3, 14.9, 15.1], (gap) =>
      withLanes({ a: lane(10, 50), b: lane(90 + gap, 50 + gap), c: lane(90 + 2 * gap, 140) }),
    ),
  ],
  [
    'lane.gap',
    'ahead of a lane',
    ...three([6, 44.9, 45.1], (gap) => withLanes({ a: lane(10, 50), b: lane(50 + gap, 150) })),
  ],
  [
    'lane.heading-jump',
    'at a place two lanes share',
    ...three([90, 20.2, 19.9], (deg) => {
      const rad = (deg * Math.PI) / 180
      const level = withLanes({
        a: lane(10, 50),
        b: [
          [50, 100, 0],
          [50 + 40 * Math.cos(rad), 100 + 40 * Math.sin(rad), 0],
        ],
      })
      level.routes.rt_b.stops.st_b0.waypointId = 'wp_a1'
      return level
    }),
  ],
  [
    'lane.dead-end',
    'a lane somebody follows',
    withLanes({ a: lane(10, 50) }, told()),
    withLanes({ a: lane(10, 50), b: lane(95.1, 150) }, told()),
    ((level: Level) => ({ ...level, routes: { rt_a: { ...level.routes.rt_a, atEnd: 'leave' as const } } }))(
      withLanes({ a: lane(10, 50) }, told()),
    ),
  ],
  [
    'lane.dead-end',
    'a lane beside which none leads on',
    withLanes({ a: lane(10, 50), b: [[5, 103.1, 0], [51, 103.1, 0]] }, told()), // prettier-ignore
    // As far beside as the road is wide: the other leads on by more than one needs to go over.
    withLanes({ a: lane(10, 50), b: [[5, 103.1, 0], [70, 103.1, 0]] }, told()), // prettier-ignore
    withLanes({ a: lane(10, 50), b: [[5, 103.1, 0], [90, 103.1, 0]] }, told()), // prettier-ignore
  ],
  [
    'spawner.bound-nowhere',
    'a stream onto one lane, bound for another',
    ...three([40, 3.1, 3], (m) => {
      const bare = withLanes({ a: lane(10, 50), b: lane(50 + m, 120) })
      const stream = { name: 'Stream', profileId: null, at: [10, 100, 0] as Place, where: 'lanes' as const, laneIds: ['rt_a'], bound: [{ laneId: 'rt_b', share: 1 }] } // prettier-ignore
      const level = levelSchema.parse({ ...bare, spawners: { sp_a: stream } })
      // As near as that somebody has joined them.
      return m > 3 ? level : linked(level, 'wp_a1', 'wp_b0')
    }),
  ],
  [
    'lane.too-tight',
    'a turn of a quarter circle',
    ...three([3, 4.8, 5.2], (m) => {
      // From east to north round a corner so far from both ends.
      const bare = withLanes({ a: lane(50, 100 - m), b: [[100, 100 + m, 0], [100, 150, 0]] }, { settings: blankLevel('Turn', 160, 160).settings }) // prettier-ignore
      return linked(withStreams(bare, { laneIds: ['rt_a'] }, { turnM: 5 }), 'wp_a1', 'wp_b0')
    }),
  ],
  [
    'lane.halt-no-room',
    'a platform on a lane of forty metres',
    ...three([80, 40.6, 40.4], (toM) =>
      withHalt(withLanes({ a: lane(10, 50) }, told()), { where: 'on', fromM: 10, toM }),
    ),
  ],
  [
    'lane.halt-no-room',
    'parking for bodies a metre in radius',
    // Come into at six tenths across for each along, between circles that stand before and behind.
    ...three([2, 3.8, 3.9], (placeM) =>
      withHalt(withStreams(withLanes({ a: lane(10, 50) }, told()), { laneIds: ['rt_a'] }, { radiusM: 1 }), {
        where: 'left',
        fromM: 5,
        toM: 35,
        placeM,
      }),
    ),
  ],
  [
    'lane.passing-short',
    'a track with twelve metres between its narrows',
    ...three([20, 10.1, 9.8], (keepsM) => track({ passing: [{ fromM: 90, toM: 95 }] }, { radiusM: 1, keepsM })),
  ],
  [
    'lane.passing-short',
    'a track for bodies of two metres',
    ...three([1.5, 2.35, 2.45], (laneM) => track({ laneM }, { radiusM: 1 })),
  ],
  ['lane.off-road', 'a wall beside a lane others lead into', ...three([0, 0.9, 1.1], (m) => walled(m))],
  ['lane.off-road', 'a wall behind a turning circle', ...three([5, 16.6, 16.9], (m) => walled(m, true))],
  [
    'lane.unfed',
    'a lane by itself',
    withLanes({ a: lane(10, 50) }),
    withLanes({ a: lane(10, 50), b: lane(95.1, 120) }, told()),
    linked(withLanes({ a: lane(10, 50), b: lane(60, 90) }, told()), 'wp_a1', 'wp_b0'),
  ],
  [
    'lane.overlap',
    'two lanes in one line',
    ...three([40, 6.6, 6.4], (m) => withLanes({ a: lane(10, 60), b: lane(60 - m, 120) })),
  ],
  ['junction.missing', 'two lanes that cross', ...three([0, 2.49, 2.51], (m) => crossing(m))],
  [
    'junction.conflict-uncontrolled',
    'two lanes that cross',
    ...three([0, 2.49, 2.51], (m) => crossing(m, { control: 'none' })),
  ],
  [
    'junction.green-conflict',
    'two lanes that cross',
    ...three([0, 2.49, 2.51], (m) => crossing(m, (ids) => ({ control: 'signals', phases: [both(20, ids)] }))),
  ],
  [
    'junction.green-conflict',
    'those who walk over a lane, close to the junction',
    ...three([85, 73.6, 73.4], (x) => walked(x, ([a, b], k) => [both(20, [a, k]), both(20, [b])])),
  ],
  [
    'junction.walk-short',
    'a lane 3 m wide to get over',
    ...three([0, 3.6, 3.8], (s) =>
      walked(85, ([a, b], k) => [both(20, [a]), both(20, [b]), { ...both(s, [k]), amberS: 0, allRedS: 0 }]),
    ),
  ],
  [
    'junction.phase-starved',
    'a stage too short',
    ...three([0, 3.9, 4], (s) =>
      crossing(0, ([a, b]) => ({ control: 'signals', phases: [both(20, [a]), both(s, [b])] })),
    ),
  ],
  ['junction.watch-short', 'a watch area', watching(-25), watching(-0.6), watching(-0.4)],
  ['junction.gridlock-risk', 'a round of give ways', round(4), round(4, true), round(3)],
]
