import type { Check } from '../check'
import { isFed, joinsAll, joinLabel, turnsRound } from '../lanes'

export const laneDeadEnd: Check = {
  id: 'lane.dead-end',
  stage: 'routes',
  severity: 'note',
  sentence: 'A lane leads nowhere, and it is not said that those who come to its end leave.',
  each: 'routes',
  run(look, id) {
    const { name, kind, atEnd } = look.level.thing('routes', id)!
    const lane = kind === 'lane' && atEnd === 'unsaid' ? look.lanes.lane(id) : undefined
    if (!lane || lane.closed || lane.route.travel !== 'one-way' || look.lanes.out(id).length > 0) return []
    if (look.lanes.endsBeside(id)) return []
    const joins = look.lanes.joins(id)
    // Where it would go straight on, that is told by itself; one drawn backwards ends where it should begin.
    if (joins.some((s) => s.goesOn) || look.lanes.backwards().includes(id)) return []
    // A lane nobody comes along leads nobody nowhere.
    if (look.lanes.into(id).length === 0 && look.graph.followers(id).length === 0 && !isFed(look, id)) return []
    const leave = {
      label: 'Let those who come there leave',
      edit: 'changeThings' as const,
      args: { in: 'routes' as const, changes: { [id]: { atEnd: 'leave' as const } } },
    }
    const join = joins.length > 0 ? joinsAll(joinLabel(joins.length), joins) : undefined
    const back = look.lanes.turnsRound(id)
    const into = back && look.lanes.lane(back.into)
    const turn = into && turnsRound(lane, into, back.turnM)
    return [
      {
        subjects: [id],
        at: look.level.thing('waypoints', lane.endId)!.at,
        message: `${name} ends, and no lane goes on from there.`,
        fix: join ?? leave,
        ways: [...(turn ? [turn] : []), ...(join ? [leave] : [])],
      },
    ]
  },
}
