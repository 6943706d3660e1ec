import { boxesMeet, boxHolds, boxOf, type Point3 } from '@tidytrail/core/geometry'
import { footprint } from '@tidytrail/core/ground'
import type { Collection, ThingOf } from '@tidytrail/core/level'
import type { Check } from '../check'

/** The places of a thing that must lie within the extent. */
const PLACES = {
  waypoints: (t: ThingOf<'waypoints'>): Point3[] => [t.at],
  spawners: (t: ThingOf<'spawners'>): Point3[] => [t.at],
  posts: (t: ThingOf<'posts'>): Point3[] => [t.at],
  markers: (t: ThingOf<'markers'>): Point3[] => [t.at],
  passages: (t: ThingOf<'passages'>): Point3[] => [t.from, t.to],
}

function outsideExtent<C extends Collection & keyof typeof PLACES>(each: C, what: string): Check {
  const places = PLACES[each] as (thing: ThingOf<C>) => Point3[]
  return {
    id: 'ground.outside-extent',
    stage: 'ground',
    severity: 'warning',
    sentence: 'A thing lies outside the extent of the level, where nothing is worked out.',
    each,
    run(look, id) {
      const thing = look.thing(each, id)!
      const { extent } = look.settings()
      const lost = places(thing).find((at) => !boxHolds(extent, at[0], at[1]))
      if (!lost) return []
      const name = (thing as { name: string }).name || what
      const clamp = ([x, y, z]: Point3): Point3 => [
        Math.min(extent.maxX, Math.max(extent.minX, x)),
        Math.min(extent.maxY, Math.max(extent.minY, y)),
        z,
      ]
      const label = 'Move it to the edge of the level'
      return [
        {
          subjects: [id],
          at: lost,
          message: `${name} lies outside the extent of the level.`,
          ...(each === 'passages'
            ? {}
            : { fix: { label, edit: 'movePlaces', args: { places: { [id]: clamp(lost) } } } }),
        },
      ]
    },
  }
}

const solidsOutside: Check = {
  id: 'ground.outside-extent',
  stage: 'ground',
  severity: 'warning',
  sentence: 'A thing lies outside the extent of the level, where nothing is worked out.',
  each: 'solids',
  run(look, id) {
    const solid = look.thing('solids', id)!
    const box = boxOf(footprint(solid))
    if (boxesMeet(box, look.settings().extent)) return []
    const at: Point3 = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2, solid.baseM]
    const message = `${solid.name || 'A solid'} lies wholly outside the extent of the level.`
    return [{ subjects: [id], at, message, fix: { label: 'Delete it', edit: 'removeThings', args: { ids: [id] } } }]
  },
}

export const groundOutsideExtent: readonly Check[] = [
  outsideExtent('waypoints', 'A waypoint'),
  outsideExtent('spawners', 'A spawner'),
  outsideExtent('posts', 'A post'),
  outsideExtent('markers', 'A marker'),
  outsideExtent('passages', 'A passage'),
  solidsOutside,
]
