import type { Check } from '../check'
import { wayName } from '../lanes'

export const junctionConflictUncontrolled: Check = {
  id: 'junction.conflict-uncontrolled',
  stage: 'routes',
  severity: 'blocker',
  sentence:
    'Two ways of a junction cross or merge, and nothing says who goes first: no signal, no give way, no priority.',
  each: 'junctions',
  run(look, id) {
    const junction = look.level.thing('junctions', id)!
    const open = look.lanes.pairs(id).filter((p) => p.settled.by === 'nothing')
    if (open.length === 0) return []
    const [{ a, b, conflicts }] = open
    const more = open.length > 1 ? ` So it is with ${open.length} pairs of ways.` : ''
    const lesser = { yields: look.lanes.usualYields(junction) }
    const signals = junction.control === 'signals'
    return [
      {
        subjects: [id, a.id, b.id],
        at: conflicts[0].at,
        message: `At ${junction.name} nothing says whether ${wayName(look, a.id)} or ${wayName(look, b.id)} goes first${signals ? ': both have green together' : ''}.${more}`,
        fix: {
          label: signals ? 'Let who turns across give way' : 'Let the lesser road give way',
          edit: 'changeThings',
          args: {
            in: 'junctions',
            changes: { [id]: { ...lesser, ...(junction.control === 'none' && { control: 'give-way' as const }) } },
          },
        },
        ...(!signals && {
          ways: [
            {
              label: 'Let all stop, and go as they came',
              edit: 'changeThings' as const,
              args: { in: 'junctions' as const, changes: { [id]: { control: 'all-way' as const } } },
            },
          ],
        }),
      },
    ]
  },
}
