import { GROUND } from '@tidytrail/core/ground'
import { bodyOf } from '@tidytrail/core/level'
import type { Check } from '../check'
import { metres, restingOn, SETTLED_M } from '../words'

export const spawnerUnderGround: Check = {
  id: 'spawner.under-ground',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A place of a spawner lies under the ground, where nobody can stand.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    if (profile && bodyOf(profile.medium).floats) return []
    const under = [spawner.at, ...(spawner.where === 'spots' ? spawner.spots : [])].flatMap((at) => {
      const { floor, above } = restingOn(look.ground.floors(at[0], at[1]), at[2])
      return floor.surface === GROUND && above < -SETTLED_M ? [{ at, floor, above }] : []
    })
    if (under.length === 0) return []
    const [{ at, above }] = under
    const settled = (p: (typeof spawner)['at']): (typeof spawner)['at'] => {
      const found = under.find((u) => u.at === p)
      return found ? [p[0], p[1], found.floor.z] : p
    }
    return [
      {
        subjects: [id],
        at,
        message: `${under.length === 1 ? 'A place' : `${under.length} places`} of ${spawner.name} ${under.length === 1 ? 'lies' : 'lie'} ${metres(-above)} under the ground.`,
        fix: {
          label: 'Settle it on the ground',
          edit: 'changeThings',
          args: {
            in: 'spawners',
            changes: { [id]: { at: settled(spawner.at), spots: spawner.spots.map(settled) } },
          },
        },
      },
    ]
  },
}
