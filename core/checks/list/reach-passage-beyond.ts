import { isOpenToAll } from '@tidytrail/core/level'
import { beyondProfile } from '@tidytrail/core/reach'
import type { Check } from '../check'
import { passageLabel, usersOfPassage } from '../users'

export const reachPassageBeyond: Check = {
  id: 'reach.passage-beyond',
  stage: 'reach',
  severity: 'blocker',
  sentence: 'A jump or drop is higher, deeper or wider than those who are to use it can.',
  each: 'passages',
  run(look, id) {
    const passage = look.level.thing('passages', id)!
    const users = usersOfPassage(look, passage)
    const refused = users.flatMap((profileId) => {
      const why = beyondProfile(passage, look.level.thing('profiles', profileId)!)
      return why ? [{ profileId, why }] : []
    })
    // Open to all, it need only serve somebody; those it names must all be able to.
    const named = !isOpenToAll(passage)
    if (refused.length === 0 || (!named && refused.length < users.length)) return []
    const oneWay = { ...passage, twoWay: false }
    const back = { ...oneWay, from: passage.to, to: passage.from }
    const able = (path: typeof oneWay) =>
      refused.every((r) => !beyondProfile(path, look.level.thing('profiles', r.profileId)!))
    const turned = able(oneWay)
      ? { twoWay: false }
      : able(back)
        ? { twoWay: false, from: back.from, to: back.to }
        : undefined
    return [
      {
        subjects: [id, refused[0].profileId],
        at: passage.from,
        message: `${passageLabel(passage)} is too much: ${refused[0].why}.`,
        ...(passage.twoWay && turned
          ? {
              fix: {
                label: 'Make it one way, downwards',
                edit: 'changeThings' as const,
                args: { in: 'passages' as const, changes: { [id]: turned } },
              },
            }
          : {}),
      },
    ]
  },
}
