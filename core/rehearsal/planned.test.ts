import { levelSchema } from '@tidytrail/core/level'
import { framesOf, preset, travelLevel } from '@tidytrail/core/testing'
import { Survey } from '@tidytrail/core/survey'
import { describe, expect, it } from 'vitest'
import { placedForPlan, PlanSteering, Run, type Planned } from '.'

const plan: Planned = {
  points: [[10, 10, 0], [30, 10, 0], [30, 30, 0]], // prettier-ignore
  moves: [
    { fromM: 0, toM: 12, fromS: 5, toS: 15 },
    { fromM: 12, toM: 12, fromS: 15, toS: 20 },
    { fromM: 12, toM: 40, fromS: 20, toS: 40 },
  ],
}
const level = levelSchema.parse({
  ...travelLevel(preset('Lamplighter'), [[60, 60], [70, 60]] as const, {}),
  spawners: { sp_me: { name: 'Me', at: [90, 90, 0], profileId: 'pf_a', standIn: true, firstAfterS: 60, count: 3 } },
}) // prettier-ignore

describe('a stand-in that follows a plan', () => {
  const placed = placedForPlan(level, plan)!
  const survey = new Survey()
  survey.update(placed)
  const play = (commands?: Run['commands']) => {
    const run = new Run(placed, 1, survey, commands)
    const steering = commands ? undefined : new PlanSteering(plan)
    while (run.t < 45) {
      steering?.steer(run)
      run.next()
    }
    return run
  }
  const run = play()

  it('appears at its start when it sets out, and is where the plan says at every moment', () => {
    const frames = framesOf(run)
    expect(frames.findIndex((rows) => rows.length > 0) / 10).toBeCloseTo(5, 0)
    const along = (t: number) => (t < 15 ? 1.2 * (t - 5) : t < 20 ? 12 : Math.min(40, 12 + 1.4 * (t - 20)))
    for (let t = 7; t < 42; t += 0.5) {
      const m = along(t)
      const [x, y] = m <= 20 ? [10 + m, 10] : [30, 10 + m - 20]
      const [me] = frames[Math.round(t * 10)]
      expect(Math.hypot(me.x - x, me.y - y)).toBeLessThan(0.8)
    }
  })

  it('does so to the last bit when its steering is given again as commands', () => {
    expect(play(run.commands).hash).toBe(run.hash)
  })

  it('is not to be had where there is no stand-in', () => {
    expect(placedForPlan({ ...level, spawners: {} }, plan)).toBeUndefined()
    expect(level.spawners.sp_me.at).toEqual([90, 90, 0])
  })
})
