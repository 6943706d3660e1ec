import {
  COLLECTIONS,
  isRestricted,
  pointsIn,
  supportsOf,
  thingWord,
  type Collection,
  type Restriction,
} from '@tidytrail/core/level'
import type { Point3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'

/** A restriction whose last profile was deleted names nobody; it is for somebody to say who was meant. */
function restrictionEmpty(each: Collection): Check {
  return {
    id: 'reach.restriction-empty',
    stage: 'reach',
    severity: 'warning',
    sentence: 'A thing that only some profiles may use names none of them any more.',
    each,
    run(look, id) {
      const thing = look.level.thing(each, id) as unknown as Restriction & { name: string }
      if (!thing.nobody || thing.profileIds.length > 0) return []
      const name = thing.name || `A ${thingWord(each)}`
      const places = pointsIn(each, thing)
      // What has no place of its own lies where the first thing lies that it stands on.
      const [first] = supportsOf(each, thing)
      const [x, y, z = 0] = places[0] ?? look.level.thing('waypoints', first)?.at ?? [0, 0]
      const at: Point3 = [x, y, z]
      return [
        {
          subjects: [id],
          at,
          message: `${name} names nobody who may use it: the last profile it named was deleted.`,
          fix: {
            label: 'Open it to everyone',
            edit: 'setThings' as const,
            args: { things: [{ in: each, id, set: { nobody: false } }], word: 'Change' },
          },
        },
      ]
    },
  }
}

export const reachRestrictionEmpty: readonly Check[] = COLLECTIONS.filter(isRestricted).map(restrictionEmpty)
