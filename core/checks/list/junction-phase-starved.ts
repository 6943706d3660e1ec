import { cycleS } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'

/** Green shorter than this lets nobody through, seconds. */
const LEAST_GREEN_S = 4

export const junctionPhaseStarved: Check = {
  id: 'junction.phase-starved',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A way through a junction with signals never has green, or too little for anybody to go.',
  each: 'junctions',
  run(look, id) {
    const junction = look.level.thing('junctions', id)!
    if (junction.control !== 'signals') return []
    if (!(cycleS(junction) > 0))
      return [
        {
          subjects: [id],
          at: [...junction.ring[0], 0],
          message: `${junction.name} has signals and no stage of any length: all see red for ever.`,
          fix: stages(id, look.lanes.usualPhases(id)),
        },
      ]
    const starved = look.lanes.ways(id).filter((way) => {
      const greenS = junction.phases.reduce(
        (sum, p) => sum + ((way.isLink ? p.linkIds : p.laneIds).includes(way.id) ? p.greenS : 0),
        0,
      )
      return greenS < LEAST_GREEN_S
    })
    if (starved.length === 0) return []
    const [first] = starved
    const more = starved.length > 1 ? `, nor have ${starved.length - 1} more` : ''
    return [
      {
        subjects: [id, ...starved.map((w) => w.id)],
        at: first.line.places[0],
        message: `At ${junction.name} ${wayName(look, first.id)} never has green for ${LEAST_GREEN_S} s${more}.`,
        fix: stages(id, look.lanes.usualPhases(id)),
      },
    ]
  },
}

const stages = (id: string, phases: object[]) => ({
  label: 'Make stages in which everybody has green once',
  edit: 'changeThings' as const,
  args: { in: 'junctions' as const, changes: { [id]: { phases: phases as never } } },
})
