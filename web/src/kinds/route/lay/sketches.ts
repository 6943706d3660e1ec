import type { Point3 } from '@tidytrail/core/geometry'
import { addThings, type RouteSketch, sketchedRoutes } from '@tidytrail/core/level'
import { floorsAt, floorUnder, terrainOf } from '@tidytrail/core/ground'
import { useLevelStore } from '../../../stores/level'
import { randomId } from '../../../stores/random-id'
import { useSheetStore } from '../../../stores/sheet'

/** Makes the routes of some sketches as one step, and chooses them. */
export function layRoutes(sketches: readonly RouteSketch[]): void {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const things = sketchedRoutes(levels.doc, sketches, randomId)
  const routes = things.filter((t) => t.in === 'routes')
  const label =
    routes.length === 1 ? `Lay ${(routes[0].thing as { name: string }).name}` : `Lay ${routes.length} routes`
  levels.perform(addThings, { things, label })
  sheet.choose(routes.map((r) => r.id))
}

/** A place on the floor nearest to a height; on the topmost one when none is given. Places beyond the level stay there. */
export function onFloor([x, y]: readonly number[], nearZ?: number): Point3 {
  const floors = floorsAt(terrainOf(useLevelStore().doc), x, y)
  const floor = nearZ === undefined ? floors[floors.length - 1] : floorUnder(floors, nearZ)
  return [x, y, floor.z]
}
