import { blankLevel, levelSchema, WARDEN, type Level } from '@tidytrail/core/level'
import { framesOf, rehearsed, withLanes } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { keptBeside } from './stroll'

describe('the line somebody keeps to', () => {
  const along = (widthM: number) => [
    { at: [0, 0, 0] as const, widthM },
    { at: [20, 0, 0] as const, widthM },
    { at: [20, 20, 0] as const, widthM },
  ]

  it('is the middle of the lane, or beside it to the right by its share of the room, round corners too', () => {
    expect(keptBeside(along(3), 0, 0.35).at(-1)).toEqual([20, 20, 0])
    // Half a width less a radius and a tenth of a metre: 1.05 m of room, half of it.
    const line = keptBeside(along(3), 0.5, 0.35)
    for (const [x, y] of line) {
      if (x < 19) expect(y).toBeCloseTo(-0.525, 9)
      else if (y > 1) expect(x).toBeCloseTo(20.525, 9)
      else expect([x, y]).toEqual([expect.closeTo(20.525, 9), expect.closeTo(-0.525, 9)])
    }
  })

  it('is the middle where the lane is no wider than the body', () => {
    for (const [x, y] of keptBeside(along(0.6), 1, 0.35)) expect(x === 20 || y === 0).toBe(true)
  })

  it('has a place every few metres, for those who had to step aside', () => {
    const line = keptBeside(along(3), 1, 0.35)
    for (let k = 1; k < line.length; k++)
      expect(Math.hypot(line[k][0] - line[k - 1][0], line[k][1] - line[k - 1][1])).toBeLessThan(5.5)
  })
})

/** Somebody who is told to walk about on two lanes for walking that cross. */
function about(step: object, lane: object = {}): Level {
  const narrow = { settings: blankLevel('Lanes', 80, 60).settings }
  const level = withLanes({ a: [[5, 30, 0], [75, 30, 0]], b: [[40, 5, 0], [40, 55, 0]] }, narrow) // prettier-ignore
  const routes = Object.fromEntries(
    Object.entries(level.routes).map(([id, r]) => [id, { ...r, use: 'walk', travel: 'there-and-back', tags: [id], ...lane }]), // prettier-ignore
  )
  return levelSchema.parse({
    ...level,
    routes,
    profiles: { pf_on: { ...WARDEN, name: 'Walker' }, pf_other: { ...WARDEN, name: 'Other' } },
    briefs: { br_a: { name: 'About', steps: { bs_a: { kind: 'stroll', pause: { minS: 0, maxS: 0 }, ...step } }, order: ['bs_a'] } }, // prettier-ignore
    spawners: { sp_a: { name: 'Walker', at: [10, 30, 0], profileId: 'pf_on', briefId: 'br_a' } },
  })
}

describe('somebody who walks about on lanes', () => {
  it('comes to every part of them, and never leaves them', () => {
    const places = framesOf(rehearsed(about({}), 900)).flatMap((rows) => rows.map((r) => [r.x, r.y]))
    for (const [x, y] of places) expect(Math.min(Math.abs(x - 40), Math.abs(y - 30))).toBeLessThan(1.5)
    expect(Math.max(...places.map(([, y]) => y))).toBeGreaterThan(45)
    expect(Math.min(...places.map(([, y]) => y))).toBeLessThan(15)
    expect(Math.max(...places.map(([x]) => x))).toBeGreaterThan(60)
  })

  it('goes only to lanes with the tag it is told, once it is there', () => {
    const frames = framesOf(rehearsed(about({ tag: 'rt_b' }), 200))
    const onB = frames.map((rows) => Math.abs(rows[0].x - 40) < 1.5)
    const first = onB.indexOf(true)
    expect(first).toBeGreaterThan(0)
    expect(onB.slice(first).every(Boolean)).toBe(true)
  })

  it('says that there is no lane it may use, whether none has the tag or none is for it', () => {
    for (const level of [about({ tag: 'quay' }), about({}, { profileIds: ['pf_other'] })]) {
      const run = rehearsed(level, 5)
      expect(run.engine.events.list.filter((e) => e.kind === 'blocked')).toHaveLength(1)
      const [{ reasons }] = run.verdicts()
      expect(reasons).toEqual(['there is no lane for walking that it may use and get to'])
    }
  })
})
