import { isLit, longestS, walkS } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'

export const junctionWalkShort: Check = {
  id: 'junction.walk-short',
  stage: 'routes',
  severity: 'warning',
  sentence: 'Those who walk over a crossing with lights never have green for long enough to get over.',
  each: 'junctions',
  run(look, id) {
    const junction = look.level.thing('junctions', id)!
    if (junction.control !== 'signals') return []
    return look.lanes.crossings(id).flatMap((at) => {
      if (!isLit(junction, at)) return []
      const { laneId, line } = at.crossing
      const [hasS, needsS] = [longestS(junction, laneId), walkS(at.crossing)]
      if (hasS >= needsS) return []
      // One of the stages in which they have green longest is made longer.
      const more = Math.ceil(needsS - hasS)
      const phases = junction.phases
        .map((_, k) => junction.phases.map((p, j) => (j === k ? { ...p, greenS: p.greenS + more } : p)))
        .find((made) => longestS({ ...junction, phases: made }, laneId) >= needsS)!
      return [
        {
          subjects: [id, laneId],
          at: line.places[0],
          message: `At ${junction.name} those who walk along ${wayName(look, laneId)} need ${needsS.toFixed(1)} s to get over, and have ${hasS.toFixed(1)} s until others go.`,
          fix: {
            label: `Give ${wayName(look, laneId)} ${Math.ceil(needsS)} s`,
            edit: 'changeThings' as const,
            args: { in: 'junctions' as const, changes: { [id]: { phases } } },
          },
        },
      ]
    })
  },
}
