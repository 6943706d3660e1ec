import {
  addRoute,
  addStop,
  addThing,
  changeThings,
  movePlaces,
  removeThings,
  renameLevel,
  setTravel,
  solidSchema,
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
  const note = (id: string, text: string) => apply(changeThings, { in: 'routes', changes: { [id]: { note: text } } })
  note('rt_quayround', 'Stop 2 floats, stop 5 is buried, and the crane deck is a step too high.')
  note('rt_chandlery', 'Stop 2 is in the shop’s wall.')
  note('rt_spare', 'Nobody was told to walk it.')
  note('rt_stub', 'One stop is no route.')
  return level
}
