import { lengthOf, type Point3 } from '@tidytrail/core/geometry'
import { areaOf, type Profile, type Spawner, type Zone } from '@tidytrail/core/level'
import { reachedShare } from '@tidytrail/core/reach'
import type { Look } from './check'
import { briefOfSpawner } from './told-by'

/**
 * Of a floor this share is covered by round bodies that come to lie on it one after the other where chance has it, when
 * no more find room (random sequential adsorption of discs, Feder 1980: 0.547).
 */
const JAMMED = 0.547

/** The ground of a zone as it lies now. */
export function areaOfZone(look: Look, zone: Zone) {
  if (zone.shape !== 'band' || zone.routeId === null) return areaOf({ routes: {}, waypoints: {} }, zone)
  const route = look.level.thing('routes', zone.routeId)
  if (!route) return undefined
  const ids = route.order.map((s) => route.stops[s].waypointId)
  const waypoints = Object.fromEntries(ids.map((w) => [w, look.level.thing('waypoints', w)!]))
  return areaOf({ routes: { [zone.routeId]: route }, waypoints }, zone)
}

/** How much of a zone a profile can reach; undefined while that is not known. */
export function shareOfZone(look: Look, zone: Zone, profileId: string) {
  const area = areaOfZone(look, zone)
  if (!area) return undefined
  const [x, y] = [(area.box.minX + area.box.maxX) / 2, (area.box.minY + area.box.maxY) / 2]
  const map = look.reach.map(profileId, [x, y, 0], Math.max(area.box.maxX - x, area.box.maxY - y) + 1)
  return map && { ...reachedShare(map, area), map }
}

/** How many bodies of a size find room on a floor that they appear on where chance has it. */
export const roomFor = (floorM2: number, { radiusM }: Profile): number =>
  Math.max(floorM2 > 0 ? 1 : 0, Math.floor((JAMMED * floorM2) / (Math.PI * radiusM * radiusM)))

/** A way to have a spawner send from its own spot again. */
export const fromSpot = (id: string, spawner: Spawner) => ({
  label: `Send ${spawner.count === 1 ? 'it' : 'them'} from its spot`,
  edit: 'changeThings' as const,
  args: { in: 'spawners' as const, changes: { [id]: { where: 'spot' as const } } },
})

/** Do those a spawner sends stay where they appear: nobody tells them to go anywhere? */
export function staysPut(look: Look, spawner: Spawner): boolean {
  const briefId = briefOfSpawner(look, spawner)
  const brief = briefId ? look.level.thing('briefs', briefId) : undefined
  const first = brief?.order[0]
  return !brief || !first || brief.order.every((s) => brief.steps[s].kind === 'pause')
}

/** How many places a spawner has, as far as it can be told without a reach map; undefined for a zone. */
export function placesCount(look: Look, spawner: Spawner): number | undefined {
  if (spawner.where === 'area') return undefined
  if (spawner.where === 'lanes') return spawner.laneIds.length
  if (spawner.where === 'spots') return 1 + spawner.spots.length
  if (spawner.where === 'ranks') return spawner.count
  if (spawner.where === 'spot') return 1
  const route = spawner.routeId ? look.level.thing('routes', spawner.routeId) : undefined
  if (!route || route.order.length < 2) return 0
  if (spawner.along === 'stops') return route.order.length
  if (spawner.along === 'spread') return spawner.count
  const at = route.order.map((s): Point3 => look.level.thing('waypoints', route.stops[s].waypointId)!.at)
  if (route.travel === 'round') at.push(at[0])
  return Math.max(0, 1 + Math.floor((lengthOf(at) - spawner.offsetM) / spawner.apartM))
}
