import type { Level } from '@tidytrail/core/level'
import { forksOf, nextStop } from '@tidytrail/core/network'
import { laneNet } from '@tidytrail/core/traffic'
import type { Registers, Scenario } from './scenario'
import { onRoute, type StepRow } from './steps/step'
import type { Turn } from './world'

/** The forks of all lanes, by the stops of the lanes one can turn into. */
export function laneForks(level: Level, registers: Registers): Scenario['forks'] {
  const forks = forksOf(level)
  if (forks.size === 0) return new Map()
  const { moves } = laneNet(level)
  const lanes = Object.keys(level.routes)
    .sort()
    .filter((id) => level.routes[id].kind === 'lane' && FORKED.has(level.routes[id].travel))
  /** Where lanes have a stop that something comes after. */
  const begins = new Map<string, { route: number; stop: number }>()
  for (const id of lanes) {
    const route = level.routes[id]
    route.order.forEach((stopId, stop) => {
      const { waypointId } = route.stops[stopId]
      if (nextStop(route, stop, 1) && !begins.has(waypointId))
        begins.set(waypointId, { route: registers.routes.of(id), stop })
    })
  }
  return new Map(
    lanes.map((id) => {
      const route = level.routes[id]
      const number = registers.routes.of(id)
      const turns = route.order.map((stopId, k) =>
        (forks.get(route.stops[stopId].waypointId) ?? []).flatMap(({ linkId, routeId, toId, share }): Turn[] => {
          if (linkId === null) return routeId === id ? [{ route: number, stop: nextStop(route, k, 1)!.to, share }] : []
          const to = begins.get(toId)
          if (!to) return []
          const move = moves.get(linkId)
          // As it is drawn, where it is a way into that very lane at that place.
          const leads = move?.from === id && move.to === registers.routes.ids[to.route]
          return [{ ...to, share, ...(leads && { line: move.line.places, piece: registers.pieces.of(linkId) }) }]
        }),
      )
      return [number, turns]
    }),
  )
}
/** Lanes that lead one way only can part. */
const FORKED = new Set(['one-way', 'round'])

/** The row of a step for the route somebody is on: that of the step, or a lane it has turned into. */
export function rowAt(
  { level, turned }: Scenario,
  { routes }: Registers,
  row: StepRow | undefined,
  number: number,
): StepRow | undefined {
  if (!row || number < 0 || row.routeNumber < 0 || row.routeNumber === number) return row
  let known = turned.get(row)
  if (!known) turned.set(row, (known = new Map()))
  let lane = known.get(number)
  if (!lane) {
    const routeId = routes.ids[number]
    const route = level.routes[routeId]
    lane = route ? onRoute(row, level, routeId, number) : row
    known.set(number, lane)
  }
  return lane
}
