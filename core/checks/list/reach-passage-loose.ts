import type { Check } from '../check'
import type { Finding } from '../finding'
import { passageLabel, usersOfPassage } from '../users'
import { metres } from '../words'

export const reachPassageLoose: Check = {
  id: 'reach.passage-loose',
  stage: 'reach',
  severity: 'blocker',
  sentence: 'An end of a passage is off the floor: nobody can get on or off it.',
  each: 'passages',
  run(look, id) {
    const passage = look.level.thing('passages', id)!
    const users = usersOfPassage(look, passage)
    if (users.length === 0) return []
    const found: Omit<Finding, 'check' | 'stage' | 'severity'>[] = []
    for (const end of ['from', 'to'] as const) {
      const at = passage[end]
      const ends = users.map((profileId) => ({ profileId, caught: look.reach.caught(profileId, at, passage.catchM)! }))
      if (ends.some((e) => e.caught.spot)) continue
      const { profileId, caught } = ends.reduce((a, b) => (b.caught.missM < a.caught.missM ? b : a))
      const name = look.level.thing('profiles', profileId)!.name
      const which = end === 'from' ? 'Its start' : 'Its end'
      const map = look.reach.map(profileId, at, 6)!
      const near = Number.isFinite(caught.missM) ? map.nearestReached(at[0], at[1], at[2], 6) : undefined
      const catches = `it catches within ${metres(passage.catchM)}`
      found.push({
        subjects: [id],
        at,
        message: near
          ? `${passageLabel(passage)} is loose: ${which.toLowerCase()} misses the floor ${name} can stand on by ${metres(caught.missM)} (${catches}).`
          : `${passageLabel(passage)} is loose: there is no floor for ${name} within 6 m of ${which.toLowerCase()}.`,
        ...(near
          ? {
              fix: {
                label: `Move ${which.toLowerCase()} ${metres(caught.missM)} onto the floor`,
                edit: 'changeThings' as const,
                args: {
                  in: 'passages' as const,
                  changes: { [id]: { [end]: near.at } },
                },
              },
            }
          : {}),
      })
    }
    return found
  },
}
