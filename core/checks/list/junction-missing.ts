import { freshName, junctionSchema } from '@tidytrail/core/level'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { wayName } from '../lanes'

const toCentimetre = (m: number) => Math.round(m * 100) / 100

export const junctionMissing: Check = {
  id: 'junction.missing',
  stage: 'routes',
  severity: 'blocker',
  sentence: 'Ways cross or merge outside of any junction, and nothing says who goes first.',
  each: 'routes',
  run(look, id) {
    if (look.level.thing('routes', id)!.kind !== 'lane') return []
    return look.lanes.sites(id).map(({ ring, at, linkIds, laneIds }) => {
      const [one, other, ...more] = [...linkIds, ...laneIds]
      const name = freshName(look.level.all('junctions'), 'Junction')
      const outline = ring.map(([x, y]) => [toCentimetre(x), toCentimetre(y)])
      const junction = junctionSchema.parse({ name, ring: outline, control: 'give-way' })
      return {
        subjects: [id, one, other, ...more].filter((s, k, all) => all.indexOf(s) === k),
        at,
        message: `${wayName(look, one)} and ${wayName(look, other)}${more.length > 0 ? ` (and ${more.length} more ways)` : ''} conflict, and no junction settles who goes first.`,
        fix: {
          label: 'Make a junction where the lesser road gives way',
          edit: 'addThing' as const,
          args: {
            in: 'junctions' as const,
            id: derivedId('jn', one, other),
            thing: { ...junction, yields: look.lanes.usualYields(junction) },
          },
        },
      }
    })
  },
}
