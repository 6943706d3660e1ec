import { defineChanges } from '../edit'
import type { Junction } from '../kinds/junction'
import type { Settings } from '../schema'
import { mirroredSides } from './route'
import { layLanes } from './lay-lanes'

/** Let a road go and keep its lanes, as lanes of their own. */
export const takeApart = defineChanges<{ roadId: string }>(
  (level, { roadId }) => `Take ${level.roads[roadId]?.name ?? 'a road'} apart`,
  (changes, { roadId }) => changes.remove(['roads', roadId]),
)

/**
 * Drive on the other side: the lanes of every road change over, and lanes of no road are moved as told.
 * @param moves where waypoints of such lanes are to be
 * @param orders the stops of lanes that lead round, in their new order
 * @param junctions how they are settled then
 */
export const driveOn = defineChanges<{
  side: Settings['drivesOn']
  moves?: Readonly<Record<string, readonly [number, number, number]>>
  orders?: Readonly<Record<string, readonly string[]>>
  junctions?: Readonly<Record<string, Pick<Junction, 'phases' | 'yields'>>>
}>(
  (_level, { side }) => `Drive on the ${side}`,
  (changes, { side, moves = {}, orders = {}, junctions = {} }, base) => {
    changes.set(['settings', 'drivesOn'], side)
    for (const [id, at] of Object.entries(moves)) changes.assign(['waypoints', id], { at: [...at] })
    for (const [id, order] of Object.entries(orders)) changes.assign(['routes', id], { order: [...order] })
    for (const roadId of Object.keys(changes.level.roads)) layLanes(changes, roadId)
    if (base.settings.drivesOn !== side)
      for (const { lanes } of Object.values(base.roads))
        for (const { laneId } of lanes) {
          const route = laneId ? base.routes[laneId] : undefined
          if (route && route.noChange.length + route.halts.length > 0)
            changes.assign(['routes', laneId!], mirroredSides(route))
        }
    for (const [id, how] of Object.entries(junctions)) changes.assign(['junctions', id], how)
  },
)
