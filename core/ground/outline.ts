import { boxOf, growBox, type Box2, type Point2 } from '@tidytrail/core/geometry'
import { areaOf, carriersOf, pointsIn, type Collection, type Level } from '@tidytrail/core/level'
import { footprint } from './footprint'
import { terrainOf } from './terrain'

const cornersOf = (box: Box2 | undefined): Point2[] | undefined =>
  box && [
    [box.minX, box.minY],
    [box.maxX, box.minY],
    [box.maxX, box.maxY],
    [box.minX, box.maxY],
  ]

/** What things take up on the map, where that is more than the places they say they are at. */
const OUTLINES: { readonly [C in Collection]?: (level: Level, id: string) => readonly Point2[] | undefined } = {
  solids: (level, id) => footprint(level.solids[id]),
  meshes: (level, id) => cornersOf(terrainOf(level).meshes.find((m) => m.id === id)?.box),
  // A polygon is told by its own corners.
  zones: (level, id) =>
    level.zones[id].shape === 'polygon' ? undefined : cornersOf(areaOf(level, level.zones[id])?.box),
}

/** The corners of what a thing of a collection takes up on the map. */
export function outlineIn(level: Level, collection: Collection, id: string): readonly (readonly number[])[] {
  return OUTLINES[collection]?.(level, id) ?? pointsIn(collection, level[collection][id])
}

/** The corners of what a thing, or a part of one, takes up on the map; none for what lies nowhere. */
export const outlineOf = (level: Level, id: string): (readonly number[])[] =>
  carriersOf(level, id).flatMap((c) => outlineIn(level, c.in, c.id))

/** The box round a thing or a part of one, grown by some metres; undefined for what lies nowhere. */
export function boxOfThing(level: Level, id: string, growM = 0): Box2 | undefined {
  const points = outlineOf(level, id)
  return points.length > 0 ? growBox(boxOf(points), growM) : undefined
}
