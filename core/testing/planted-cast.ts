/** Levels with a planted fault of the cast: plain, just beyond what is allowed, and just within. */
import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { p, rolling, route, spawner, things, told, two } from './planted-levels'
import { box, sceneLevel } from './scenes'

/** Wardens sent at a place, and whatever else the level has. */
const sent = (more: object = {}, rest: Partial<LevelInput> = {}, solids = {}): Level =>
  levelSchema.parse({ ...sceneLevel(100, 60, solids), ...rest, spawners: spawner(p(20, 30), more) })
/** A zone of so many metres each way, and what else is said of it. */
const zone = (sideM: number, more: object = {}) => ({
  zn_a: {
    name: 'Yard',
    ring: [
      [40, 20],
      [40 + sideM, 20],
      [40 + sideM, 20 + sideM],
      [40, 20 + sideM],
    ] as [number, number][],
    ...more,
  },
})
const holding = {
  br_h: { name: 'H', steps: { bs_a: { kind: 'hold' as const, zoneId: 'zn_a' } }, order: ['bs_a'] },
  br_w: { name: 'W', steps: { bs_b: { kind: 'wander' as const, zoneId: 'zn_a' } }, order: ['bs_b'] },
}
/** So many who are to hold a zone of so many posts. */
const held = (count: number, posts: number): Level =>
  sent(
    { briefId: 'br_h', count, everyS: 9 },
    {
      zones: zone(10),
      briefs: holding,
      posts: Object.fromEntries(
        Array.from({ length: posts }, (_, k) => [`ps_${k}`, { name: `P${k}`, at: p(42 + 2 * k, 25), zoneId: 'zn_a' }]),
      ),
    },
  )
/** Two who are told to wander in one zone, and how they stand to each other. */
const together = (hostile: boolean, more: object = {}): Level => {
  const made = sent({}, { zones: zone(10, more), briefs: holding })
  const who = { profileId: 'pf_warden', briefId: 'br_w' }
  return levelSchema.parse({
    ...made,
    factions: { fc_a: { name: 'A', hostileTo: hostile ? ['fc_b'] : [] }, fc_b: { name: 'B' } },
    spawners: {
      sp_a: { name: 'One', at: p(10, 10), factionId: 'fc_a', ...who },
      sp_b: { name: 'Two', at: p(10, 40), factionId: 'fc_b', ...who },
    },
  })
}
/** Somebody told to wander in a zone under which there is a floor or none. */
const floored = (blocked: boolean, more: object = {}): Level =>
  sent({ briefId: 'br_w' }, { zones: zone(10, more), briefs: holding }, blocked ? { sd_a: box(39, 19, 51, 31, 3) } : {})
/** Two starts at these distances from what they contest. */
const starts = (nearM: number, farM: number): Level => {
  const round = (x: number, name: string, purpose: 'start' | 'contest') => ({
    name,
    purpose,
    shape: 'circle' as const,
    ring: [
      [x, 30],
      [x + 1, 30],
    ] as [number, number][],
  })
  return things({
    zones: {
      zn_m: round(50, 'Middle', 'contest'),
      zn_w: round(50 - nearM, 'West', 'start'),
      zn_e: round(50 + farM, 'East', 'start'),
    },
  })
}
/** A patrol from (10, 30) to (50, 30), and a circle to keep out of whose edge is so far from its line. */
const led = (m: number, factionIds: string[] = []): Level => {
  const made = route(two, {}, told)
  const round = { shape: 'circle' as const, purpose: 'keep-out' as const }
  return levelSchema.parse({
    ...made,
    factions: { fc_a: { name: 'A' }, fc_b: { name: 'B' } },
    spawners: { sp_a: { ...made.spawners.sp_a, factionId: 'fc_a' } },
    zones: { zn_a: { name: 'Vault', ...round, ring: [[30, 35 + m], [35, 35 + m]], factionIds } }, // prettier-ignore
  })
}
/** A cart that appears at the start of its route, facing so many degrees off it. */
const facing = (deg: number): Level => {
  const made = rolling(5)
  return {
    ...made,
    spawners: { sp_a: { ...made.spawners.sp_a, facingRad: (deg * Math.PI) / 180 } },
  }
}

/** The check, what is wrong, and the three levels. */
export const castRows = (): [check: string, what: string, plain: Level, beyond: Level, within: Level][] => [
  [
    'spawner.under-ground',
    'a spawner under the ground',
    ...([-3, -0.26, -0.24].map((z) => things({ spawners: spawner(p(20, 20, z)) })) as [Level, Level, Level]),
  ],
  ['spawner.facing', 'a cart that faces off its way', ...([180, 101, 99].map(facing) as [Level, Level, Level])],
  [
    'spawner.too-close',
    'two spawners in one another',
    ...([0, 0.69, 0.71].map((m) =>
      things({ spawners: { ...spawner(p(20, 20)), sp_b: spawner(p(20 + m, 20)).sp_a } }),
    ) as [Level, Level, Level]),
  ],
  [
    'spawner.more-than-places',
    'more agents than room in their zone',
    // Nine square metres hold twelve bodies of 0.7 m that come to lie by chance.
    sent({ where: 'area', zoneId: 'zn_a', count: 100 }, { zones: zone(3) }),
    sent({ where: 'spots', spots: [p(30, 30)], count: 3 }),
    sent({ where: 'spots', spots: [p(30, 30)], count: 2 }),
  ],
  [
    'spawner.never',
    'a spawner without anybody to send',
    sent({ profileId: null }),
    sent({ begins: 'used-up', triggerSpawnerId: 'sp_a' }),
    sent({ begins: 'left' }),
  ],
  [
    'spawner.floods',
    'one every moment at one spot',
    sent({ count: 20, everyS: 0, briefId: null }),
    sent({ count: 20, everyS: 0.9 }),
    sent({ count: 20, everyS: 1.1 }),
  ],
  [
    'faction.default',
    'no faction where there are some',
    sent({}, { factions: { fc_a: { name: 'A' } } }),
    sent({ squadId: 'sq_a' }, { factions: { fc_a: { name: 'A' } }, squads: { sq_a: { name: 'S' } } }),
    sent(
      { squadId: 'sq_a' },
      { factions: { fc_a: { name: 'A' } }, squads: { sq_a: { name: 'S', factionId: 'fc_a' } } },
    ),
  ],
  [
    'faction.friendly-fire',
    'hostile ones in one zone',
    together(true),
    together(true, { purpose: 'guard' }),
    together(true, { purpose: 'contest' }),
  ],
  ['zone.no-posts', 'a zone to hold without posts', held(1, 0), held(3, 0), held(1, 1)],
  ['zone.crowded', 'many for one post', held(40, 2), held(7, 2), held(6, 2)],
  ['zone.kept-out', 'a route through it', led(-3), led(-0.02), led(0.02)],
  ['zone.kept-out', 'a route through it, for some', led(-3, ['fc_a']), led(-3, ['fc_b', 'fc_a']), led(-3, ['fc_b'])],
  ['zone.no-floor', 'a zone nobody can stand in', floored(true), floored(false, { fromM: 0.5 }), floored(false)],
  [
    'post.no-zone',
    'a post of no zone',
    things({ posts: { ps_a: { name: 'P', at: p(20, 20) } } }),
    things({ zones: zone(10), posts: { ps_a: { name: 'P', at: p(45, 25) } } }),
    things({ zones: zone(10), posts: { ps_a: { name: 'P', at: p(45, 25), zoneId: 'zn_a' } } }),
  ],
  ['balance.starts', 'one start farther off', starts(10, 40), starts(20, 26), starts(20, 24.9)],
]
