import {
  addRoute,
  addStop,
  addThing,
  changeThings,
  markerSchema,
  movePlaces,
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
  type Edit,
  type Level,
} from '@tidytrail/core/level'
import { block } from './build'
import { lanternquay } from './lanternquay'

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
    in: 'posts',
    id: 'ps_lookout',
    thing: postSchema.parse({ name: 'Lookout', at: [90, 80, 3], note: 'It belongs on the roof.' }),
  })
  const skiff = PRESETS.find((p) => p.medium === 'water')!
  const barge = { ...skiff, name: 'Barge', draughtM: 9, note: 'It draws more than the harbour has.' }
  apply(addThing, { in: 'profiles', id: 'pf_barge', thing: profileSchema.parse(barge) })
  const mooring = { name: 'Mooring', at: [100, 20, 0], profileId: 'pf_barge' }
  apply(addThing, { in: 'spawners', id: 'sp_mooring', thing: spawnerSchema.parse(mooring) })
  // Reach areas that leave out the steps the pier watch goes to.
  const area = (id: string, name: string, profileIds: string[], ring: [number, number][]) =>
    apply(addThing, { in: 'reachAreas', id, thing: reachAreaSchema.parse({ name, profileIds, ring }) })
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
  const note = (id: string, text: string) => apply(changeThings, { in: 'routes', changes: { [id]: { note: text } } })
  note('rt_quayround', 'Stop 2 floats, stop 5 is buried, and the crane deck is a step too high.')
  note('rt_chandlery', 'Stop 2 is in the shop’s wall.')
  note('rt_spare', 'Nobody was told to walk it.')
  note('rt_stub', 'One stop is no route.')
  return level
}
