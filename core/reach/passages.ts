import { distance2, type Point3 } from '@tidytrail/core/geometry'
import { bodyOf, admits, type Level, type Passage, type Profile } from '@tidytrail/core/level'
import type { ReachMap, Spot } from './map'

/** How far around an end a floor is looked for only to say by how much the end misses it, metres. */
const LOOK_M = 6

/** What an end of a passage catches. */
export interface CaughtEnd {
  /** The floor it leads from or to; undefined when none is within the passage's catching distance. */
  readonly spot: Spot | undefined
  /** Where on that floor; the end itself where nothing is caught. */
  readonly at: Point3
  /** Distance from the end to the nearest place the profile can be, metres; Infinity when none is near. */
  readonly missM: number
}

/** A passage as one profile can use it, its ends on the reach map. */
export interface UsablePassage {
  readonly id: string
  readonly kind: Passage['kind']
  readonly takesS: number
  readonly twoWay: boolean
  readonly from: Point3
  readonly to: Point3
  readonly fromSpot: Spot
  readonly toSpot: Spot
}

/** The place on the reach map an end of a passage belongs to. */
export function catchEnd(map: ReachMap, at: Point3, catchM: number): CaughtEnd {
  const here = map.floorAt(at[0], at[1], at[2], catchM)
  if (here && map.isFree(here, at[0], at[1]) && Math.abs(map.zOf(here) - at[2]) <= catchM) {
    return {
      spot: map.inPart(here, at[0], at[1]),
      at: [at[0], at[1], map.zOf(here)],
      missM: Math.abs(map.zOf(here) - at[2]),
    }
  }
  const near = map.nearestReached(at[0], at[1], at[2], LOOK_M)
  if (!near) return { spot: undefined, at, missM: Infinity }
  const place = near.at
  const missM = Math.sqrt(distance2(at, place) ** 2 + (at[2] - place[2]) ** 2)
  return missM <= catchM ? { spot: near.spot, at: place, missM } : { spot: undefined, at, missM }
}

/** May a profile use a passage at all, whatever its size? A locked one is nobody's. */
export function mayPass(passage: Passage, profileId: string, profile: Profile): boolean {
  if (passage.state === 'locked') return false
  if (!admits(passage, profileId)) return false
  return bodyOf(profile.medium).jumps || !['jump', 'drop', 'ladder'].includes(passage.kind)
}

/** Why a jump or drop is more than a profile can do, in words with figures; undefined when it can, both ways where it leads both. */
export function beyondProfile(
  passage: Pick<Passage, 'kind' | 'twoWay'> & { readonly from: Point3; readonly to: Point3 },
  profile: Profile,
): string | undefined {
  if (passage.kind !== 'jump' && passage.kind !== 'drop') return undefined
  const metres = (m: number) => `${m.toFixed(2)} m`
  const gapM = Math.max(0, distance2(passage.from, passage.to) - 2 * profile.radiusM)
  const rise = passage.to[2] - passage.from[2]
  const widest = passage.kind === 'drop' ? Math.max(1, profile.jumpM) : profile.jumpM
  if (gapM > widest + 1e-6) return `it leads over a gap of ${metres(gapM)}, and ${profile.name} jumps ${metres(widest)}`
  const ups = passage.twoWay ? [rise, -rise] : [rise]
  for (const up of ups) {
    if (up > Math.max(profile.climbM, profile.stepM) + 1e-6)
      return `it leads up ${metres(up)}, and ${profile.name} jumps ${metres(profile.climbM)} high`
    if (-up > Math.max(profile.dropM, profile.stepM) + 1e-6)
      return `it leads down ${metres(-up)}, and ${profile.name} drops ${metres(profile.dropM)} at most`
  }
  return undefined
}

/** The passages of a level that a profile can use and whose ends catch its reach map. */
export function usablePassages(
  map: ReachMap,
  passages: Level['passages'],
  profileId: string,
  profile: Profile,
): UsablePassage[] {
  const usable: UsablePassage[] = []
  for (const id of Object.keys(passages).sort()) {
    const passage = passages[id]
    if (!mayPass(passage, profileId, profile) || beyondProfile(passage, profile)) continue
    const from = catchEnd(map, passage.from, passage.catchM)
    const to = catchEnd(map, passage.to, passage.catchM)
    if (!from.spot || !to.spot) continue
    usable.push({
      id,
      kind: passage.kind,
      takesS: passage.takesS,
      twoWay: passage.twoWay,
      from: from.at,
      to: to.at,
      fromSpot: from.spot,
      toSpot: to.spot,
    })
  }
  return usable
}

/** Height of somebody in a passage a share of the way from one end to the other, metres: jumps and drops fly in a bow. */
export function passageHeight(kind: Passage['kind'], from: Point3, to: Point3, share: number): number {
  const z = from[2] + (to[2] - from[2]) * share
  if (kind === 'jump') return z + 4 * Math.max(0.3, 0.15 * distance2(from, to)) * share * (1 - share)
  if (kind === 'drop') return from[2] + (to[2] - from[2]) * share * share
  return z
}
