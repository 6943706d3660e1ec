import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import { changeStops, partFieldsOf, removeStops, type Route, type Stop } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { shared } from '../card/shared'

/** A chosen stop, with the route it is of and where in it. */
export interface HeldStop {
  readonly routeId: string
  readonly route: Route
  readonly id: string
  readonly index: number
  readonly stop: Stop
}

/** Chosen stops, of one route or of several, and what can be set of them all. */
export function useStops(ids: () => readonly string[]) {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const held = computed(() => {
    const wanted = new Set(ids())
    return Object.entries(levels.doc.routes).flatMap(([routeId, route]): HeldStop[] =>
      route.order.flatMap((id, index) =>
        wanted.has(id) ? [{ routeId, route, id, index, stop: route.stops[id] }] : [],
      ),
    )
  })
  const routeIds = computed(() => [...new Set(held.value.map((h) => h.routeId))])
  const waypointIds = computed(() => [...new Set(held.value.map((h) => h.stop.waypointId))])
  const single = computed(() => (held.value.length === 1 ? held.value[0] : undefined))
  const byRoute = computed(() => {
    const map: Record<string, string[]> = {}
    for (const { routeId, id } of held.value) (map[routeId] ??= []).push(id)
    return map
  })
  const parts = computed(() => held.value.map((h) => ({ id: h.id, thing: h.stop as object })))
  /** The fields of a stop as its schema tells them. */
  const fields = computed(() => {
    const [first] = held.value
    return partFieldsOf('routes', first.route, first.id).fields
  })
  const same = <T>(read: (s: Stop) => T) => shared(held.value, (h) => read(h.stop))
  type Values = Partial<Omit<Stop, 'waypointId'>>
  const set = (values: Values | ((stop: Stop) => Values), gesture?: string) =>
    levels.perform(changeStops, { stops: byRoute.value, set: values }, gesture)
  const setField = (values: (thing: object) => object, gesture: string | undefined) =>
    set(values as (stop: Stop) => Values, gesture)

  const floorOf = (at: readonly number[], liftM = 0) =>
    floorUnder(floorsAt(terrainOf(levels.doc), at[0], at[1]), at[2] - liftM).z
  /** Where the waypoints would be, settled. */
  const settled = computed(() =>
    Object.fromEntries(
      waypointIds.value.map((id) => {
        const { at, liftM } = levels.doc.waypoints[id]
        return [id, [at[0], at[1], floorOf(at, liftM) + liftM]]
      }),
    ),
  )
  function remove(): void {
    const entries = Object.entries(byRoute.value)
    const routes = routeIds.value
    if (entries.length === 1) levels.perform(removeStops, { routeId: entries[0][0], stopIds: entries[0][1] })
    else
      levels.together(
        `Delete ${held.value.length} stops`,
        entries.map(
          ([routeId, stopIds]) =>
            (l) =>
              removeStops.apply(l, { routeId, stopIds }),
        ),
      )
    // The routes are looked at by what is left of them.
    sheet.choose(routes)
  }
  return {
    levels,
    sheet,
    held,
    single,
    routeIds,
    waypointIds,
    parts,
    fields,
    same,
    set,
    setField,
    floorOf,
    settled,
    remove,
  }
}
export type Stops = ReturnType<typeof useStops>
