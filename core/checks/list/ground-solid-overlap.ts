import { GROUND } from '@tidytrail/core/ground'
import type { Check } from '../check'
import { metres, restingOn, SETTLED_M } from '../words'

/** Posts and markers; waypoints and spawners have checks of their own. */
function swallowed(each: 'posts' | 'markers', what: string): Check {
  return {
    id: 'ground.solid-overlap',
    stage: 'ground',
    severity: 'warning',
    sentence: 'A solid or mesh swallows a post or a marker.',
    each,
    run(look, id) {
      const thing = look.level.thing(each, id)!
      const [x, y, z] = thing.at
      const { floor, above } = restingOn(look.ground.floors(x, y), z)
      if (floor.surface === GROUND || above >= -SETTLED_M) return []
      const solid = look.ground.surface(floor.surface)!
      return [
        {
          subjects: solid.id ? [id, solid.id] : [id],
          at: thing.at,
          message: `${thing.name || what} lies ${metres(-above)} inside ${solid.name}.`,
          fix: {
            label: `Put it on top of ${solid.name}`,
            edit: 'movePlaces',
            args: { places: { [id]: [x, y, floor.z] }, word: 'Settle' },
          },
        },
      ]
    },
  }
}

export const groundSolidOverlap: readonly Check[] = [swallowed('posts', 'A post'), swallowed('markers', 'A marker')]
