import { greenTogether } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'

export const junctionGreenConflict: Check = {
  id: 'junction.green-conflict',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'Two ways that cross straight on have green together.',
  each: 'junctions',
  run(look, id) {
    const junction = look.level.thing('junctions', id)!
    if (junction.control !== 'signals') return []
    // Who turns may wait within the junction; two that both go straight on may not.
    const both = look.lanes
      .pairs(id)
      .filter(
        ({ a, b, conflicts }) =>
          conflicts.some((c) => c.kind === 'crossing') && goesOn(a) && goesOn(b) && greenTogether(junction, a, b),
      )
    return both.map(({ a, b, conflicts }) => {
      const phases = junction.phases.map((p) => {
        const has = (w: typeof a) => (w.isLink ? p.linkIds : p.laneIds).includes(w.id)
        if (!has(a) || !has(b)) return p
        const less = (list: readonly string[]) => list.filter((w) => w !== b.id)
        return { ...p, linkIds: less(p.linkIds), laneIds: less(p.laneIds) }
      })
      return {
        subjects: [id, a.id, b.id],
        at: conflicts[0].at,
        message: `At ${junction.name} ${wayName(look, a.id)} and ${wayName(look, b.id)} cross and have green together.`,
        fix: {
          label: `Take green from ${wayName(look, b.id)} there`,
          edit: 'changeThings' as const,
          args: { in: 'junctions' as const, changes: { [id]: { phases } } },
        },
      }
    })
  },
}
const goesOn = (way: { turnRad: number }) => Math.abs(way.turnRad) < 0.5
