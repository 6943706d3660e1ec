import type { Check } from '../check'
import { passageLabel, usersOfPassage } from '../users'

export const reachPassageOneWayTrap: Check = {
  id: 'reach.passage-one-way-trap',
  stage: 'reach',
  severity: 'warning',
  sentence: 'Whoever goes through a one-way passage can never come back.',
  each: 'passages',
  run(look, id) {
    const passage = look.level.thing('passages', id)!
    if (passage.twoWay) return []
    for (const profileId of usersOfPassage(look, passage)) {
      if (look.reach.canReturn(profileId, id)) continue
      const name = look.level.thing('profiles', profileId)!.name
      return [
        {
          subjects: [id],
          at: passage.to,
          message: `${passageLabel(passage)} is a trap for ${name}: no way leads back from its end.`,
          ...(passage.kind === 'drop' || passage.kind === 'jump'
            ? {}
            : {
                fix: {
                  label: 'Let it lead both ways',
                  edit: 'changeThings' as const,
                  args: { in: 'passages' as const, changes: { [id]: { twoWay: true } } },
                },
              }),
        },
      ]
    }
    return []
  },
}
