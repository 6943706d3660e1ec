import {
  addAndSet,
  addLinks,
  addThing,
  haltSchema,
  levelSchema,
  LEVEL_FORMAT,
  LEVEL_VERSION,
  PRESETS,
  roadSchema,
  WARDEN,
  type Level,
  type LevelInput,
  type Road,
} from '@tidytrail/core/level'
import {
  crossingOver,
  laneNet,
  roundaboutAt,
  suggestJoins,
  suggestJunctions,
  suggestWalkJoins,
  usualPhases,
  usualYields,
  walkNet,
} from '@tidytrail/core/traffic'
import type { z } from 'zod'
import { block, oblong } from './build'

/** The middle of the ring at the end of Bridge Road. */
const RING = [236, 120] as const
const RING_M = 14

type Place = [number, number, number]
const at = (x: number, y: number): Place => [x, y, 0]

const PAVED = { pavementLeftM: 2, pavementRightM: 2 }
/** Every road leads towards the middle of the town, so that its lanes ahead are those that come in. */
const ROADS: Record<string, Partial<Road> & { points: Place[] }> = {
  kettle: { name: 'Kettle Street', points: [at(4, 120), at(94, 120)], ...PAVED, speedLimitMps: 9 },
  bridge: { name: 'Bridge Road', points: [at(126, 120), at(212, 120)], ...PAVED, speedLimitMps: 9 },
  north: { name: 'North Row', points: [at(110, 236), at(110, 136)], ...PAVED, speedLimitMps: 8 },
  quay: { name: 'Quay Lane', points: [at(110, 4), at(110, 104)], ...PAVED, speedLimitMps: 8 },
  lamp: { name: 'Lamp Road', points: [at(316, 120), at(260, 120)], speedLimitMps: 9 },
  mill: { name: 'Mill Road', points: [at(236, 236), at(236, 144)], speedLimitMps: 8 },
  market: { name: 'Market Street', points: [at(236, 96), at(236, 4)], back: 0, laneM: 3.5, ...PAVED, speedLimitMps: 5 },
}

/** Where one walks over the roads: which road, how far along it, and who waits. Those close to the crossroads have lights. */
const CROSSINGS: [road: string, m: number, waits: 'vehicles' | 'walkers'][] = [
  ['kettle', 86, 'vehicles'],
  ['bridge', 4, 'vehicles'],
  ['north', 96, 'vehicles'],
  ['quay', 96, 'vehicles'],
  ['kettle', 55, 'vehicles'],
  ['bridge', 45, 'vehicles'],
  ['north', 50, 'vehicles'],
  ['quay', 55, 'walkers'],
  ['market', 40, 'vehicles'],
]

const HOUSES: [string, number, number, number, number, number][] = [
  ['Kettle House', 72, 136, 96, 160, 9],
  ['Chandlery', 124, 136, 150, 156, 7],
  ['Fish hall', 66, 78, 96, 104, 8],
  ['Bakehouse', 124, 82, 148, 104, 6],
  ['Market hall', 246, 40, 272, 78, 8],
  ['Weigh house', 206, 44, 226, 74, 7],
]

function ground(): Level {
  const presets = Object.fromEntries(PRESETS.map((p) => [p.name, p]))
  const input: LevelInput = {
    format: LEVEL_FORMAT,
    version: LEVEL_VERSION,
    name: 'Kettle Cross',
    settings: { extent: { minX: 0, minY: 0, maxX: 320, maxY: 240 }, drivesOn: 'left', rehearseS: 600 },
    profiles: {
      pf_tram: { ...presets['Tram-cart'], gaits: { crawl: 2, run: 9 }, brakeMps2: 2.6 },
      pf_wagon: {
        ...presets['Tide-cart'],
        name: 'Oil wagon',
        radiusM: 1.4,
        heightM: 2.4,
        gaits: { haul: 7 },
        gait: 'haul',
        accelMps2: 0.9,
        brakeMps2: 3,
        gripMps2: 2.5,
        turnM: 5,
        headwayS: 1.5,
      },
      pf_cart: {
        ...presets['Tide-cart'],
        name: 'Market cart',
        radiusM: 0.9,
        gaits: { trot: 8 },
        gait: 'trot',
        accelMps2: 1.6,
      },
      pf_walker: { ...WARDEN, name: 'Townsfolk' },
    },
    factions: { fc_town: { name: 'Townsfolk' } },
    solids: Object.fromEntries(
      HOUSES.map(([name, x0, y0, x1, y1, top], k) => [
        `sd_house${k}`,
        block(name, [x0, y0, x1, y1], [0, top], { blocksSight: true }),
      ]),
    ),
    zones: {
      zn_market: {
        name: 'Market place',
        shape: 'polygon',
        ring: oblong(246, 84, 300, 104),
        note: 'Where the stalls stand.',
      },
    },
  }
  return levelSchema.parse(input)
}

/** Traffic of an hour: so many onto each lane at the edge of the town, a third of them heavy. */
export const DESIGN_PER_H = 210

/** A town with a signalled crossroads, a roundabout and a one-way market street. */
export function kettleCross(): Level {
  let level = ground()
  const apply = <A>(edit: { apply(level: Level, args: A): { level: Level } }, args: A) =>
    (level = edit.apply(level, args).level)
  for (const [key, road] of Object.entries(ROADS))
    apply(addThing, {
      in: 'roads',
      id: `rd_${key}`,
      thing: roadSchema.parse({ curve: 'straight', laneM: 3.5, ...road }),
    })
  const made = roundaboutAt(level, {
    at: [...RING, 0],
    radiusM: RING_M,
    widthM: 4,
    name: 'Lamp Ring',
    laneId: 'rt_ring',
    junctionId: 'jn_ring',
  })
  if ('why' in made) throw new Error(made.why)
  apply(addAndSet, { add: made.add, set: [], label: 'Add a roundabout' })
  const joins = suggestJoins(laneNet(level), level.settings.drivesOn)
  apply(addLinks, {
    links: joins.map((s, k) => ({ id: `ln_cross${k}`, fromId: s.fromWaypointId, toId: s.toWaypointId, twoWay: false })),
  })
  const corners = suggestWalkJoins(walkNet(level), laneNet(level))
  apply(addLinks, {
    links: corners.map((s, k) => ({
      id: `ln_corner${k}`,
      fromId: s.fromWaypointId,
      toId: s.toWaypointId,
      twoWay: true,
    })),
  })
  CROSSINGS.forEach(([road, m, atCrossings], k) => {
    const ids = { laneId: `rt_over${k}`, fromId: `wp_over${k}a`, toId: `wp_over${k}b` }
    const add = crossingOver(level, `rd_${road}`, m, ids)
    apply(addAndSet, { add, set: [{ in: 'routes', id: ids.laneId, set: { atCrossings } }], label: 'Lay a crossing' })
  })
  suggestJunctions(level, laneNet(level)).forEach(({ ring }, k) => {
    const name = k === 0 ? 'Kettle Cross' : `Junction ${k + 1}`
    const thing = levelSchema.shape.junctions.parse({
      jn_x: { name, ring: ring.map(([x, y]) => [x, y]), control: 'signals' },
    }).jn_x
    const net = laneNet(level)
    const phases = usualPhases(level, net, thing)
    const planned = { ...thing, phases }
    apply(addThing, {
      in: 'junctions',
      id: `jn_cross${k}`,
      thing: { ...planned, yields: usualYields(level, net, planned) },
    })
  })
  return peopled(level)
}

/** Streams onto the lanes at the edge of the town, and walkers on its pavements. */
function peopled(level: Level): Level {
  const net = laneNet(level)
  const sources = [...net.lanes.values()].filter((lane) => !lane.closed && !net.into.has(lane.id)).map((l) => l.id)
  const pavements = Object.entries(level.roads).flatMap(([, road]) =>
    road.lanes.flatMap(({ key, laneId }) => (key.startsWith('p') && laneId ? [laneId] : [])),
  )
  // Who comes to the edge of the town is gone.
  const edges = [...net.lanes.values()].filter((lane) => !lane.closed && !net.out.has(lane.id)).map((l) => l.id)
  const routes = { ...level.routes }
  for (const id of edges) routes[id] = { ...routes[id], atEnd: 'leave' }
  // Tram-carts halt where Lamp Road comes in; beside what leads out along Mill Road some park.
  const halting = (id: string, halt: z.input<typeof haltSchema>) =>
    (routes[id] = { ...routes[id], halts: [haltSchema.parse(halt)] })
  halting('rt_lampa1', { where: 'on', fromM: 12, toM: 24, minS: 12, maxS: 20, profileIds: ['pf_tram'] })
  halting('rt_millb1', { where: 'left', fromM: 24, toM: 66, minS: 40, maxS: 180, share: 0.25, profileIds: ['pf_cart'] })
  const spawners: Record<string, unknown> = {
    sp_traffic: {
      name: 'Town traffic',
      calls: 'Cart #',
      at: at(8, 132),
      profileId: 'pf_cart',
      factionId: 'fc_town',
      weight: 5,
      mix: [
        { profileId: 'pf_tram', weight: 2 },
        { profileId: 'pf_wagon', weight: 1.5 },
      ],
      where: 'lanes',
      laneIds: sources,
      perH: DESIGN_PER_H,
      note: 'The flow the town is laid out for.',
    },
  }
  const briefs: Record<string, unknown> = {
    br_about: { name: 'About town', steps: { bs_about: { kind: 'stroll' } }, order: ['bs_about'] },
  }
  pavements.forEach((laneId, k) => {
    const first = level.routes[laneId].stops[level.routes[laneId].order[0]].waypointId
    spawners[`sp_walk${k}`] = {
      name: `Walkers of ${level.routes[laneId].name}`,
      at: level.waypoints[first].at,
      profileId: 'pf_walker',
      factionId: 'fc_town',
      briefId: 'br_about',
      count: 4,
      alive: 'keep',
      everyS: 14,
      spreadS: 6,
    }
  })
  const counters = {
    ct_in: { name: 'Kettle Street, going in', laneId: 'rt_kettlea1', atM: 60, toId: 'ct_out' },
    ct_out: { name: 'Bridge Road, going out', laneId: 'rt_bridgea1', atM: 40 },
    ct_market: { name: 'Into the market', laneId: 'rt_marketa1', atM: 20 },
    ct_ring: { name: 'On the ring', laneId: 'rt_ring', atM: 33 },
  }
  return levelSchema.parse({ ...level, routes, briefs, spawners, counters })
}
