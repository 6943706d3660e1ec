import { levelSchema, type LevelInput } from '@tidytrail/core/level'
import { box, planted } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { applyFix, CheckedSurvey, waysOf, waysOut } from '.'

const { p, things, spawner } = planted

/** A line with a corner, and what stands in it. */
function surveyed(solids: LevelInput['solids']) {
  const survey = new CheckedSurvey()
  const more = { sneakLines: { sl_a: { name: 'Past', points: [p(10, 10), p(50, 10), p(50, 50)] } } }
  survey.update(levelSchema.parse({ ...things({ spawners: spawner(p(5, 30), { standIn: true }), solids }), ...more }))
  return { survey, found: () => survey.findings.filter((f) => f.check === 'sneak-line.blocked') }
}

describe('a sneak line that is barred', () => {
  it('is told of where it first is, and is led round all that stands in it at once', () => {
    const { survey, found } = surveyed({ sd_a: box(28, 6, 32, 14, 3), sd_b: box(46, 28, 54, 32, 3) })
    const [finding] = found()
    expect(found()).toHaveLength(1)
    expect(finding.message).toMatch(/cannot go along Past: 18 m along it gets to where it is too close to/)
    expect(finding.at[0]).toBeCloseTo(27.65, 1)
    const [fix] = waysOut(survey, finding, 1, waysOf(finding))
    expect(fix.label).toBe('Lead it round')
    const done = applyFix(survey.level!, fix)
    survey.update(done.level, done.patch)
    expect(found()).toEqual([])
    const { points } = done.level.sneakLines.sl_a
    expect([points[0], points.at(-1)]).toEqual([p(10, 10), p(50, 50)])
    expect(points).toContainEqual(p(50, 10))
  })

  it('has no way out where nothing leads past', () => {
    const { found } = surveyed({ sd_a: box(28, 6, 32, 14, 3), sd_b: box(-1, 28, 101, 32, 3) })
    expect(found()).toHaveLength(1)
    expect(found()[0].fix).toBeUndefined()
  })
})
