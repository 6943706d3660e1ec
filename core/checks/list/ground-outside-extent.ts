import { boxesMeet, boxHolds, boxOf, type Point3 } from '@tidytrail/core/geometry'
import { footprint } from '@tidytrail/core/ground'
import {
  COLLECTIONS,
  pointsIn,
  placeKey,
  placeKeys,
  rolesIn,
  thingWord,
  type Collection,
  type Zone,
} from '@tidytrail/core/level'
import { areaOfZone } from '../cast'
import type { Check } from '../check'

const about = {
  id: 'ground.outside-extent',
  stage: 'ground',
  severity: 'warning',
  sentence: 'A thing lies outside the extent of the level, where nothing is worked out.',
} as const

/** Kinds of things that stand at places in space. The place of a mesh is its origin, which may be anywhere. */
const PLACED = COLLECTIONS.filter((c) => c !== 'meshes' && placeKeys(c).length > 0)

function outsideExtent(each: Collection): Check {
  return {
    ...about,
    each,
    run(look, id) {
      const thing = look.level.thing(each, id)!
      const { extent } = look.level.settings()
      const lost = pointsIn(each, thing).find((at) => !boxHolds(extent, at[0], at[1]))
      if (!lost) return []
      const name = (thing as { name?: string }).name || `A ${thingWord(each)}`
      const at = lost as Point3
      const edge: Point3 = [
        Math.min(extent.maxX, Math.max(extent.minX, at[0])),
        Math.min(extent.maxY, Math.max(extent.minY, at[1])),
        at[2],
      ]
      const fix = {
        label: 'Move it to the edge of the level',
        edit: 'movePlaces' as const,
        args: { places: { [id]: edge } },
      }
      const message = `${name} lies outside the extent of the level.`
      return [{ subjects: [id], at, message, ...(placeKey(each) ? { fix } : {}) }]
    },
  }
}

/** Kinds of things that are outlines: they matter as long as some of them lies on the sheet. */
const OUTLINED = COLLECTIONS.filter(
  (c) => c !== 'solids' && !PLACED.includes(c) && [...rolesIn(c).values()].includes('ring'),
)

function outlineOutside(each: Collection): Check {
  return {
    ...about,
    each,
    run(look, id) {
      const thing = look.level.thing(each, id)!
      const points = pointsIn(each, thing)
      // A zone may be told by other things than corners.
      const area = each === 'zones' ? areaOfZone(look, thing as Zone)?.box : undefined
      if (!area && points.length === 0) return []
      const box = area ?? boxOf(points)
      if (boxesMeet(box, look.level.settings().extent)) return []
      const name = (thing as { name?: string }).name || `A ${thingWord(each)}`
      return [
        {
          subjects: [id],
          at: [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2, 0],
          message: `${name} lies wholly outside the extent of the level.`,
          fix: { label: 'Delete it', edit: 'removeThings', args: { ids: [id] } },
        },
      ]
    },
  }
}

const solidsOutside: Check = {
  ...about,
  each: 'solids',
  run(look, id) {
    const solid = look.level.thing('solids', id)!
    const box = boxOf(footprint(solid))
    if (boxesMeet(box, look.level.settings().extent)) return []
    const at: Point3 = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2, solid.baseM]
    const message = `${solid.name || 'A solid'} lies wholly outside the extent of the level.`
    return [{ subjects: [id], at, message, fix: { label: 'Delete it', edit: 'removeThings', args: { ids: [id] } } }]
  },
}

export const groundOutsideExtent: readonly Check[] = [
  ...PLACED.map(outsideExtent),
  ...OUTLINED.map(outlineOutside),
  solidsOutside,
]
