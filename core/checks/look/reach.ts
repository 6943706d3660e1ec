import { boxOf, growBox, type Point3 } from '@tidytrail/core/geometry'
import { elevationAlong } from '@tidytrail/core/network'
import {
  catchEnd,
  nearestGap,
  type CaughtEnd,
  type FoundPath,
  type IslandGap,
  type PathAnswer,
  type ReachMap,
} from '@tidytrail/core/reach'
import type { SurveyView } from '@tidytrail/core/survey'
import type { Notes } from './notes'

/** What is read of where each profile can be, and of the ways there are. */
export class LookAtReach {
  constructor(private readonly notes: Notes) {}

  /** The reach map of a profile, to be asked about places within a distance of (x, y). */
  map(profileId: string, [x, y]: Point3, withinM: number): ReachMap | undefined {
    this.notes.noteBox(growBox({ minX: x, minY: y, maxX: x, maxY: y }, withinM))
    return this.notes.note('reach', (v) => v.plannerFor(profileId)?.map)
  }

  /** The island a place is on; noted, so that a change anywhere that joins or parts islands is seen. */
  island(profileId: string, place: Point3): number | undefined {
    return this.notes.note('reach', (v) => {
      const map = v.plannerFor(profileId)?.map
      const spot = map?.reachedAt(...place)
      return map && spot ? map.islandOf(spot) : undefined
    })
  }

  /** How many islands a profile's reach has; undefined while it has no reach map. */
  islandCount(profileId: string): number | undefined {
    return this.notes.note('reach', (v) => v.plannerFor(profileId)?.map.islands.list.length)
  }

  /** Where two islands come nearest to each other, as near to a place as may be; noted to the millimetre, so that a change of it is seen. */
  gap(
    profileId: string,
    from: number,
    to: number,
    near: Point3,
  ): Pick<IslandGap, 'fromAt' | 'toAt' | 'widthM' | 'riseM'> | undefined {
    const read = (v: SurveyView) => {
      const map = v.plannerFor(profileId)?.map
      const gap = map && nearestGap(map, from, to, near)
      return gap && [gap.widthM, gap.riseM, ...gap.fromAt, ...gap.toAt].map((m) => m.toFixed(3)).join(' ')
    }
    const figures = this.notes.note('reach', read)?.split(' ').map(Number)
    if (!figures) return undefined
    const [widthM, riseM, ax, ay, az, bx, by, bz] = figures
    return { widthM, riseM, fromAt: [ax, ay, az], toAt: [bx, by, bz] }
  }

  /** What an end of a passage catches on the reach map of a profile. */
  caught(profileId: string, at: Point3, catchM: number): CaughtEnd | undefined {
    const map = this.map(profileId, at, catchM + 6)
    return map && catchEnd(map, at, catchM)
  }

  /** Once through a passage, can a profile get back to where it came from by whatever way? */
  canReturn(profileId: string, passageId: string): boolean {
    return this.notes.note('reach', (v) => {
      const planner = v.plannerFor(profileId)
      const passage = planner?.passages.find((p) => p.id === passageId)
      return !planner || !passage || planner.joins(passage.toSpot, passage.fromSpot)
    })
  }

  path(profileId: string, from: Point3, to: Point3, legs: 'found' | 'drawn'): PathAnswer | undefined {
    return this.notes.note('reach', (v) => v.plannerFor(profileId)?.path(from, to, legs))
  }

  /** The ways of all legs of a route, in order; undefined while the profile has no reach map. */
  legs(profileId: string, routeId: string): readonly PathAnswer[] | undefined {
    return this.notes.note('reach', (v) => v.legs(profileId, routeId))
  }

  /** The way along the line that leads from a lane into another; undefined while the profile has no reach map. */
  alongWay(profileId: string, linkId: string): PathAnswer | undefined {
    const read = (v: SurveyView) => {
      const move = v.relations.lanes.moves.get(linkId)
      return move && v.plannerFor(profileId)?.along(move.line.places)
    }
    this.notes.note('lanes', read)
    return this.notes.note('reach', read)
  }

  /** The floors walked on along a way, about every so many metres. */
  heightsAlong(profileId: string, path: FoundPath, everyM: number): readonly Point3[] {
    this.notes.noteBox(boxOf(path.line, everyM))
    const map = this.notes.view.plannerFor(profileId)?.map
    return map ? elevationAlong(map, path.line, everyM, path.uses) : path.line
  }
}
