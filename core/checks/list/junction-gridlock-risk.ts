import { yieldRing } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'

export const junctionGridlockRisk: Check = {
  id: 'junction.gridlock-risk',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'Each way of a junction gives way to the next in a round, so that nobody may go.',
  each: 'junctions',
  run(look, id) {
    const junction = look.level.thing('junctions', id)!
    const pairs = look.lanes.pairs(id)
    const round = yieldRing(pairs)
    if (!round) return []
    const { conflicts } = pairs.find((p) => round.includes(p.a.id) && round.includes(p.b.id))!
    return [
      {
        subjects: [id, ...round],
        at: conflicts[0].at,
        message: `At ${junction.name} nobody may go: ${round.map((w) => wayName(look, w)).join(' waits for ')}, which waits for the first.`,
        fix: {
          label: 'Say anew who gives way',
          edit: 'changeThings',
          args: {
            in: 'junctions',
            changes: { [id]: { yields: look.lanes.usualYields({ ...junction, yields: [] }) } },
          },
        },
      },
    ]
  },
}
