import { heightAt, heightField } from '@tidytrail/core/ground'
import {
  addLinks,
  addNetworkNodes,
  addRoute,
  addStop,
  addThing,
  assignRoute,
  briefSchema,
  changeStops,
  changeThings,
  markerSchema,
  sneakLineSchema,
  trialSchema,
  movePlaces,
  newStep,
  passageSchema,
  postSchema,
  PRESETS,
  profileSchema,
  reachAreaSchema,
  removeThings,
  renameLevel,
  setTravel,
  solidSchema,
  spawnerSchema,
  waypointSchema,
  type BriefStep,
  type Edit,
  type Level,
  type Route,
  type Stop,
} from '@tidytrail/core/level'
import { block } from './build'
import { lanternquay } from './lanternquay'
import { plantCast } from './rough-cast'
import { plantLanes } from './rough-lanes'

/** Height of the harbour yard, where most faults are planted. */
const YARD_M = 1.2
const CART = PRESETS.find((p) => p.medium === 'wheels')!

/** Lanternquay with planted faults, each with a note on the thing it was planted in. */
export function roughDraft(): Level {
  let level = lanternquay()
  const apply = <A>(edit: Edit<A>, args: A) => {
    level = edit.apply(level, args).level
  }
  apply(renameLevel, { name: 'Rough draft' })

  // A stop that hangs over the quay, and one sunk into the yard.
  const lift = (id: string, by: number) => {
    const [x, y, z] = level.waypoints[id].at
    apply(movePlaces, { places: { [id]: [x, y, z + by] } })
  }
  lift('wp_quayround2', 2.4)
  lift('wp_quayround5', -0.8)
  // A profile that moves farther in a step than it is wide.
  const dart = {
    ...level.profiles.pf_warden,
    name: 'Dart',
    gaits: { walk: 24 },
    note: 'At 24 m/s it moves 0.8 m at each step: more than its radius, so that it could pass through what is thin.',
  }
  apply(addThing, { in: 'profiles', id: 'pf_dart', thing: dart })
  apply(changeThings, { in: 'spawners', changes: { sp_lighter: { profileId: 'pf_dart' } } })
  // A stop in a wall.
  apply(movePlaces, { places: { wp_chandlery2: [102, 116.4, level.waypoints.wp_chandlery2.at[2]] } })
  // The deck's ramp is gone: its step is 0.62 m, and a warden climbs 0.40 m.
  apply(removeThings, { ids: ['sd_deckramp'] })
  // A spawner inside a building, and another on the far bank of nothing.
  apply(movePlaces, { places: { sp_lighter: [10, 90, 1.2] } })
  apply(addThing, {
    in: 'solids',
    id: 'sd_raft',
    thing: solidSchema.parse({
      ...block('Moored raft', [186, 30, 196, 38], [-1, 0.4]),
      walkable: true,
      note: 'Nothing joins it to the quay.',
    }),
  })
  apply(movePlaces, { places: { sp_tower: [191, 34, 0.4] } })
  // A route nobody follows, one with a single stop, and a brief whose route was deleted.
  apply(addRoute, { id: 'rt_spare', name: 'Spare round', kind: 'patrol' })
  apply(addStop, { routeId: 'rt_spare', stopId: 'st_spare1', waypointId: 'wp_spare1', at: [100, 64, 1.2] })
  apply(addStop, { routeId: 'rt_spare', stopId: 'st_spare2', waypointId: 'wp_spare2', at: [130, 64, 1.2] })
  apply(setTravel, { routeId: 'rt_spare', travel: 'there-and-back' })
  apply(addRoute, { id: 'rt_stub', name: 'Stub', kind: 'patrol' })
  apply(addStop, { routeId: 'rt_stub', stopId: 'st_stub1', waypointId: 'wp_stub1', at: [176, 62, 1.2] })
  apply(removeThings, { ids: ['rt_roofbeat'] })
  // A buoy outside the level, a lookout in a wall, and a barge nobody can float.
  apply(addThing, { in: 'markers', id: 'mk_buoy', thing: markerSchema.parse({ name: 'Buoy', at: [232, 40, 0] }) })
  apply(addThing, {
    in: 'trials',
    id: 'tl_stuck',
    thing: trialSchema.parse({ kind: 'stuck', longestS: 5, note: 'Somebody is: mend the doorway first.' }),
  })
  // A way to sneak that is drawn through a warehouse.
  const through = { name: 'Through the net loft', points: [[40, 108, 1.2], [40, 68, 1.2]] } // prettier-ignore
  apply(addThing, { in: 'sneakLines', id: 'sl_loft', thing: sneakLineSchema.parse(through) })
  apply(addThing, {
    in: 'posts',
    id: 'ps_lookout',
    thing: postSchema.parse({ name: 'Lookout', at: [90, 80, 3], note: 'It belongs on the roof.' }),
  })
  const skiff = PRESETS.find((p) => p.medium === 'water')!
  const barge = { ...skiff, name: 'Barge', draughtM: 9, note: 'It draws more than the harbour has.' }
  apply(addThing, { in: 'profiles', id: 'pf_barge', thing: profileSchema.parse(barge) })
  const mooring = { name: 'Mooring', at: [100, 20, 0], profileId: 'pf_barge' }
  apply(addThing, { in: 'spawners', id: 'sp_mooring', thing: spawnerSchema.parse(mooring) })
  // One that was raised and never let down again.
  const crow = { name: 'Crow’s nest', at: [70, 64, 14.2], profileId: 'pf_warden' }
  apply(addThing, { in: 'spawners', id: 'sp_crow', thing: spawnerSchema.parse(crow) })
  // Reach areas that leave out the steps the pier watch goes to.
  const area = (id: string, name: string, profileIds: string[], ring: [number, number][]) =>
    apply(addThing, { in: 'reachAreas', id, thing: reachAreaSchema.parse({ name, profileIds, ring }) })
  // It was kept for somebody whose profile is gone.
  const basin: [number, number][] = [
    [20, 4],
    [30, 4],
    [30, 12],
  ]
  const kept = { name: 'Old basin', profileIds: [], nobody: true, ring: basin }
  apply(addThing, { in: 'reachAreas', id: 'ra_basin', thing: reachAreaSchema.parse(kept) })
  const [west, east, north] = [166, 172, 32]
  area(
    'ra_harbour',
    'Harbour',
    ['pf_warden'],
    [
      [0, 0],
      [west, 0],
      [west, north],
      [east, north],
      [east, 0],
      [220, 0],
      [220, 160],
      [0, 160],
    ],
  )
  area(
    'ra_steps',
    'East steps',
    [],
    [
      [west, 0],
      [east, 0],
      [east, north],
      [west, north],
    ],
  )
  // Passages: one that misses the roof, one too wide to jump, one that leads onto the raft and never back.
  const passage = (id: string, values: Parameters<typeof passageSchema.parse>[0]) =>
    apply(addThing, { in: 'passages', id, thing: passageSchema.parse(values) })
  passage('pg_short', { name: 'Short ladder', kind: 'ladder', from: [171, 84, 1.2], to: [171, 84, 6.2] })
  passage('pg_wide', { name: 'Slip jump', kind: 'jump', from: [59, 50, 1.2], to: [71, 50, 1.2] })
  passage('pg_raft', { name: 'Rope', kind: 'portal', from: [185, 49, 1.2], to: [191, 36, 0.4], twoWay: false })
  // A gap hardly wider than a warden.
  apply(addThing, {
    in: 'solids',
    id: 'sd_bales1',
    thing: solidSchema.parse(block('Bales', [110, 61, 112, 63.5], [1.2, 3])),
  })
  apply(addThing, {
    in: 'solids',
    id: 'sd_bales2',
    thing: solidSchema.parse(block('Bales', [110, 64.5, 112, 67], [1.2, 3])),
  })
  plantRoutes(apply)
  plantRuns(apply)
  plantBriefs(apply)
  plantCast(apply, (x, y) => heightAt(heightField(level.ground), x, y))
  plantLanes(apply)
  const note = (id: string, text: string) => apply(changeThings, { in: 'routes', changes: { [id]: { note: text } } })
  note('rt_quayround', 'Stop 2 floats, stop 5 is buried, and the crane deck is a step too high.')
  note('rt_chandlery', 'Stop 2 is in the shop’s wall.')
  note('rt_spare', 'Nobody was told to walk it.')
  note('rt_stub', 'One stop is no route.')
  return level
}

/** How routes, and spawners that follow them, are planted. */
function planting(apply: Apply) {
  const route = (
    key: string,
    name: string,
    places: readonly ([number, number] | [number, number, number] | string)[],
    more: Partial<Route> & { say?: Record<number, Partial<Omit<Stop, 'waypointId'>>> } = {},
  ) => {
    const { say = {}, ...set } = more
    apply(addRoute, { id: `rt_${key}`, name, kind: more.kind ?? 'patrol' })
    places.forEach((place, i) => {
      const at = typeof place === 'string' ? undefined : [place[0], place[1], place[2] ?? YARD_M]
      const waypointId = typeof place === 'string' ? place : `wp_${key}${i + 1}`
      apply(addStop, { routeId: `rt_${key}`, stopId: `st_${key}${i + 1}`, waypointId, at })
    })
    apply(changeThings, { in: 'routes', changes: { [`rt_${key}`]: set } })
    for (const [i, values] of Object.entries(say))
      apply(changeStops, { stops: { [`rt_${key}`]: [`st_${key}${Number(i)}`] }, set: values })
  }
  const follows = (
    key: string,
    routeKey: string,
    profileId: string,
    at: [number, number, number],
    name = `Test spawner ${key}`,
  ) => {
    apply(addThing, {
      in: 'spawners',
      id: `sp_${key}`,
      thing: spawnerSchema.parse({ name, at, profileId, factionId: 'fc_watch' }),
    })
    apply(assignRoute, { spawnerId: `sp_${key}`, routeId: `rt_${routeKey}`, briefId: `br_${key}`, stepId: `bs_${key}` })
  }
  return { route, follows }
}

/** Faults that only show when it is rehearsed: out on the open yard. */
function plantRuns(apply: Apply): void {
  const { route, follows } = planting(apply)
  const solid = (id: string, name: string, box: [number, number, number, number]) =>
    apply(addThing, { in: 'solids', id, thing: solidSchema.parse(block(name, box, [YARD_M, YARD_M + 2])) })
  const stands = (key: string, name: string, [x, y]: readonly [number, number]) =>
    apply(addThing, {
      in: 'spawners',
      id: `sp_${key}`,
      thing: spawnerSchema.parse({ name, at: [x, y, YARD_M], profileId: 'pf_warden', factionId: 'fc_watch' }),
    })
  // A pen with a door as narrow as one body, and somebody who stands in it.
  solid('sd_pen1', 'Pen, north', [46, 58, 53, 58.4])
  solid('sd_pen2', 'Pen, south', [46, 51.6, 53, 52])
  solid('sd_pen3', 'Pen, east', [52.6, 52, 53, 58])
  solid('sd_pen4', 'Pen, west', [46, 52, 46.4, 54.6])
  solid('sd_pen5', 'Pen, west', [46, 55.4, 46.4, 58])
  const pen = { note: 'Its way leads through a door somebody stands in.' }
  route(
    'pen',
    'Into the pen',
    [
      [41, 55],
      [50, 55],
    ],
    pen,
  )
  stands('plug', 'In the door', [46.2, 55])
  follows('pen', 'pen', 'pf_warden', [40, 55, YARD_M], 'Pen watch')
  // A way through a wall that ends where a guard stands.
  solid('sd_board', 'Boards', [160, 46, 160.3, 57])
  apply(addThing, {
    in: 'passages',
    id: 'pg_flap',
    thing: passageSchema.parse({
      name: 'Flap',
      kind: 'portal',
      from: [158.5, 52, YARD_M],
      to: [162, 52, YARD_M],
      note: 'It ends just where a guard stands.',
    }),
  })
  route(
    'flap',
    'Through the flap',
    [
      [156, 52],
      [164.5, 52],
    ],
    { note: 'It comes out in the guard.' },
  )
  stands('guard', 'Flap guard', [162, 52])
  follows('flap', 'flap', 'pf_warden', [155, 52, YARD_M], 'Flap runner')
}

/** Briefs that say nothing, begin with themselves, or go on after their end; those told by them stand in a corner of the yard. */
function plantBriefs(apply: Apply): void {
  const told = (key: string, name: string, x: number, note: string, ...steps: BriefStep[]) => {
    const ids = steps.map((_, k) => `bs_${key}${k + 1}`)
    const brief = {
      name: `Brief of ${name}`,
      steps: Object.fromEntries(steps.map((s, k) => [ids[k], s])),
      order: ids,
      note,
    }
    apply(addThing, { in: 'briefs', id: `br_${key}`, thing: briefSchema.parse(brief) })
    const who = { profileId: 'pf_warden', factionId: 'fc_watch', briefId: `br_${key}` }
    const thing = spawnerSchema.parse({ name, at: [x, 61, YARD_M], ...who })
    apply(addThing, { in: 'spawners', id: `sp_${key}`, thing })
  }
  told('idler', 'Idler', 140, 'It says nothing.')
  told('bell', 'Bell ringer', 143, 'It begins again before anything is done.', newStep('again'), newStep('pause'))
  told('errand', 'Errand boy', 137, 'He leaves, and only then would pause.', newStep('leave'), newStep('pause'))
}

type Apply = <A>(edit: Edit<A>, args: A) => void

/** Faults of waypoints, routes, links and networks, most of them out on the open yard. */
function plantRoutes(apply: Apply): void {
  const { route, follows } = planting(apply)
  apply(addThing, {
    in: 'profiles',
    id: 'pf_truck',
    thing: profileSchema.parse({ ...CART, turnRateRadps: 0.5, turnM: 9 }),
  })
  // Three that do not close, cross themselves and turn back: the wrong order, each time.
  route(
    'loop',
    'Yard loop',
    [
      [112, 54],
      [124, 54],
      [124, 60],
      [112, 55],
    ],
    { note: 'It comes back and does not close.' },
  )
  route(
    'knot',
    'Yard knot',
    [
      [112, 54],
      [124, 60],
      [124, 54],
      [112, 60],
    ],
    { travel: 'round', note: 'Two stops are swapped.' },
  )
  route(
    'spur',
    'Yard spur',
    [
      [112, 57],
      [124, 57],
      [118, 57.1],
      [128, 57],
    ],
    { note: 'It goes back for a stop it has passed.' },
  )
  route('spur2', 'yard  spur', ['wp_spur1', [112, 57.05, YARD_M + 0.05]], {
    note: 'Its name differs only by capitals and a blank.',
  })
  route(
    'count',
    'Bollard count',
    [
      [114, 56],
      [118, 56],
      [122, 56],
    ],
    {
      note: 'Its bollards are numbered in another order.',
      say: { 2: { gait: 'gallop' } },
    },
  )
  ;['Bollard 1', 'Bollard 3', 'Bollard 2'].forEach((name, i) =>
    apply(changeThings, { in: 'waypoints', changes: { [`wp_count${i + 1}`]: { name } } }),
  )
  follows('count', 'count', 'pf_warden', [119, 58, YARD_M])
  route(
    'truck',
    'Truck turn',
    [
      [112, 54],
      [124, 54],
      [125, 56],
      [125, 56.2],
    ],
    {
      profileIds: ['pf_warden'],
      note: 'A truck cannot turn so tightly, and it is not its route.',
    },
  )
  follows('truck', 'truck', 'pf_truck', [114, 58, YARD_M])
  route('ferry', 'Ferry', ['wp_loop1', [100, 20, 0]], {
    profileIds: ['pf_barge'],
    note: 'It shares a stop with a walk.',
  })
  // Round a long wall, though it looks near; and over a ramp as steep as can be.
  const solid = (id: string, input: Parameters<typeof solidSchema.parse>[0]) =>
    apply(addThing, { in: 'solids', id, thing: solidSchema.parse(input) })
  solid('sd_hoarding', block('Hoarding', [116, 50.5, 116.4, 62.5], [YARD_M, YARD_M + 2]))
  route(
    'detour',
    'Hoarding walk',
    [
      [115, 56.5],
      [117.5, 56.5],
    ],
    { note: 'What is near is far to walk.' },
  )
  solid('sd_steep', {
    shape: 'ramp',
    name: 'Steep ramp',
    at: [146, 60],
    sizeX: 4,
    sizeY: 3,
    baseM: YARD_M,
    heightM: 2.95,
    walkable: true,
  })
  route(
    'climb',
    'Steep climb',
    [
      [142, 60],
      [147.4, 60, YARD_M + 2.5],
    ],
    { note: 'Hardly less steep than a warden can go.' },
  )
  apply(addThing, {
    in: 'waypoints',
    id: 'wp_lone',
    thing: waypointSchema.parse({ name: 'Left over', at: [140, 56, YARD_M] }),
  })
  // A network with everything a network can have wrong with it.
  const nodes = [
    [128, 52],
    [132, 53],
    [136, 52],
    [140, 53],
    [144, 52],
    [148, 53],
    [152, 52],
    [114, 64],
    [119, 64.1],
    [124, 64],
    [122, 60],
  ]
  apply(addRoute, { id: 'rt_net', name: 'Yard net', kind: 'network' })
  apply(addNetworkNodes, {
    routeId: 'rt_net',
    nodes: nodes.map(([x, y], i) => ({ stopId: `st_net${i + 1}`, waypointId: `wp_net${i + 1}`, at: [x, y, YARD_M] })),
  })
  const link = (a: number, b: number, twoWay = true) => ({
    id: `ln_net${a}x${b}`,
    fromId: `wp_net${a}`,
    toId: `wp_net${b}`,
    twoWay,
  })
  apply(addLinks, {
    routeId: 'rt_net',
    links: [
      link(1, 2),
      link(2, 3),
      link(3, 4),
      link(4, 5),
      link(5, 6, false),
      link(6, 7),
      link(8, 9),
      link(9, 10),
      link(10, 11, false),
    ],
  })
  apply(changeThings, {
    in: 'routes',
    changes: { rt_net: { note: 'It falls apart, leads into dead ends and through the hoarding.' } },
  })
}
