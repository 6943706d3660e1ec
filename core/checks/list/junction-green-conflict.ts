import { greenTogether, isLit, lightsUp, STRAIGHT_RAD, straightOver } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'

export const junctionGreenConflict: Check = {
  id: 'junction.green-conflict',
  stage: 'routes',
  severity: 'blocker',
  sentence:
    'Two ways that cross straight on have green together, or one leads straight on over those who walk with green.',
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
    const walked = look.lanes.crossings(id).flatMap((at) => {
      if (!isLit(junction, at)) return []
      const { laneId, line } = at.crossing
      const through = junction.phases.flatMap((p) => (lightsUp(p, laneId) ? straightOver(p, at) : []))
      if (through.length === 0) return []
      const phases = junction.phases.map((p) =>
        lightsUp(p, laneId) && straightOver(p, at).length > 0
          ? { ...p, laneIds: p.laneIds.filter((w) => w !== laneId) }
          : p,
      )
      return [
        {
          subjects: [id, laneId, through[0].id],
          at: line.places[0],
          message: `At ${junction.name} those who walk along ${wayName(look, laneId)} have green together with ${wayName(look, through[0].id)}, which leads straight on over it.`,
          fix: {
            label: `Take green from ${wayName(look, laneId)} there`,
            edit: 'changeThings' as const,
            args: { in: 'junctions' as const, changes: { [id]: { phases } } },
          },
        },
      ]
    })
    const crossed = both.map(({ a, b, conflicts }) => {
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
    return [...crossed, ...walked]
  },
}
const goesOn = (way: { turnRad: number }) => Math.abs(way.turnRad) < STRAIGHT_RAD
