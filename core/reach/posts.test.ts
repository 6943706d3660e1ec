import { areaOf, eyesOf } from '@tidytrail/core/level'
import { castLevel, box } from '@tidytrail/core/testing'
import { Survey } from '@tidytrail/core/survey'
import { describe, expect, it } from 'vitest'
import { reachedShare, suggestPosts } from '.'

/** A yard of 20 × 20 m with a long wall along its western side, outside of which there is nothing to see. */
const level = castLevel(
  {},
  { sd_a: box(3, 4, 5, 26, 4, { walkable: false }), sd_b: box(14, 14, 18, 18, 4, { walkable: false }) },
)
const survey = new Survey()
survey.update(level)
const { map } = survey.plannerFor('pf_warden')!
const area = areaOf(level, level.zones.zn_w)!

describe('posts that are suggested', () => {
  const found = suggestPosts(map, area, eyesOf(level.profiles.pf_warden), 6)

  it('lie in the zone on floor that can be reached, apart from each other, the best first', () => {
    expect(found.length).toBeGreaterThan(1)
    for (const p of found) {
      expect(area.holds(p.at[0], p.at[1])).toBe(true)
      expect(map.reachedAt(...p.at)).toBeDefined()
    }
    for (const [k, p] of found.entries())
      for (const q of found.slice(k + 1))
        expect(Math.hypot(p.at[0] - q.at[0], p.at[1] - q.at[1])).toBeGreaterThanOrEqual(4)
    expect(Math.max(...found.map((p) => p.worth))).toBe(10)
  })

  it('look away from what covers their back', () => {
    // The best has something behind it: the way it faces is open for ten metres, behind it is not.
    const [best] = found
    const open = (far: number) =>
      map.reachedAt(best.at[0] + Math.cos(best.facingRad) * far, best.at[1] + Math.sin(best.facingRad) * far, 0)
    expect(open(6)).toBeDefined()
    const behind = [0, -0.6, 0.6].some(
      (d) =>
        !map.reachedAt(
          best.at[0] - Math.cos(best.facingRad + d) * 1.2,
          best.at[1] - Math.sin(best.facingRad + d) * 1.2,
          0,
        ),
    )
    expect(behind).toBe(true)
  })
})

describe('the share of a zone that can be reached', () => {
  it('is what is left of it beside a block and its own wall, to two hundredths', () => {
    // Of 400 m² the block takes 4.7 × 4.7 m with the room bodies need, the wall a strip of 0.35 m.
    const { share, floorM2 } = reachedShare(map, area)
    const left = 400 - 4.7 * 4.7 + (4 - Math.PI) * 0.35 ** 2 - 0.35 * 20
    // Columns are a quarter of a metre wide: those at an edge count whole or not at all.
    expect(Math.abs(floorM2 - left)).toBeLessThan(8)
    expect(Math.abs(share - left / 400)).toBeLessThan(0.02)
  })

  it('is nought where nothing can be reached', () => {
    const none = reachedShare(map, { ...area, holds: (x, y) => x > 14.5 && x < 17.5 && y > 14.5 && y < 17.5 })
    expect(none).toMatchObject({ share: 0, floorM2: 0, at: undefined })
  })
})
