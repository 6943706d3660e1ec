import { describe, expect, it } from 'vitest'
import type { Level } from '@tidytrail/core/level'
import { changeThings } from '@tidytrail/core/level'
import { laneNet } from '@tidytrail/core/traffic'
import { framesOf, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'

/** A lane to the east that parts into two others: one that goes straight on, one that turns to the north. */
function parting(shares: readonly [number, number], count: number, everyS = 2): Level {
  const level = travelLevel(
    preset('Tide-cart'),
    [
      [10, 60],
      [40, 60],
    ],
    {
      route: { kind: 'lane', legs: 'drawn', travel: 'one-way' },
      spawner: { count, everyS },
    },
  )
  const { st_0 } = level.routes.rt_a.stops
  const lane = (id: string, places: [number, number][]) => {
    const order = places.map(([x, y], k) => {
      level.waypoints[`wp_${id}${k}`] = { ...level.waypoints.wp_0, at: [x, y, 0] }
      return `st_${id}${k}`
    })
    const stops = Object.fromEntries(order.map((s, k) => [s, { ...st_0, waypointId: `wp_${id}${k}` }]))
    level.routes[`rt_${id}`] = { ...level.routes.rt_a, name: `Lane ${id}`, stops, order }
  }
  lane('s', [
    [52, 60],
    [90, 60],
  ])
  lane('n', [
    [46, 68],
    [46, 100],
  ])
  const link = { fromId: 'wp_1', twoWay: false, costFactor: 1, turnM: null, tags: [] }
  level.links.ln_n = { ...link, toId: 'wp_n0', share: shares[0] }
  level.links.ln_s = { ...link, toId: 'wp_s0', share: shares[1] }
  return level
}
const turns = (run: ReturnType<typeof rehearsed>) =>
  run.engine.events.list.filter((e) => e.kind === 'turned').map((e) => run.engine.registers.routes.ids[e.route])

describe('a fork of lanes', () => {
  it('is taken by the shares of its links, each agent by its own luck', () => {
    const run = rehearsed(parting([3, 1], 200, 2.5), 540)
    const taken = turns(run)
    expect(taken.length).toBe(200)
    const north = taken.filter((id) => id === 'rt_n').length
    // Chi square with one degree of freedom: 10.8 is passed once in a thousand.
    const south = 200 - north
    expect((north - 150) ** 2 / 150 + (south - 50) ** 2 / 50).toBeLessThan(10.8)
    // They leave at the open ends, and nobody was found not to follow.
    expect(run.engine.events.list.filter((e) => e.kind === 'left').length).toBeGreaterThan(190)
    expect(new Set(run.verdicts().map((v) => v.verdict))).not.toContain('does-not-follow')
  })

  it('is turned at along the line the link is drawn with', () => {
    const level = parting([1, 0], 1)
    const run = rehearsed(level, 26)
    const { line } = laneNet(level).moves.get('ln_n')!
    const rows = framesOf(run).flat()
    const along = line.places.slice(3, -3)
    expect(along.length).toBeGreaterThan(5)
    // It comes by every place of it, as near as one pursues a line.
    for (const [x, y] of along) expect(Math.min(...rows.map((r) => Math.hypot(r.x - x, r.y - y)))).toBeLessThan(0.6)
  })

  it('is rolled through without a halt, on the lane that was drawn', () => {
    const run = rehearsed(parting([0, 1], 1), 26)
    expect(turns(run)).toEqual(['rt_s'])
    const rows = framesOf(run).flat()
    const on = rows.filter((r) => r.x > 25 && r.x < 80)
    expect(Math.min(...on.map((r) => r.speed))).toBeGreaterThan(2)
    expect(Math.max(...on.map((r) => Math.abs(r.y - 60)))).toBeLessThan(0.3)
    expect(turns(rehearsed(parting([1, 0], 1), 26))).toEqual(['rt_n'])
  })

  it('is repeated to the last bit, and another seed is other luck', () => {
    const run = rehearsed(parting([1, 1], 12), 90, 5)
    expect(rehearsed(parting([1, 1], 12), 90, 5).hash).toBe(run.hash)
    const orders = new Set([1, 2, 3, 4].map((seed) => turns(rehearsed(parting([1, 1], 12), 60, seed)).join()))
    expect(orders.size).toBeGreaterThan(1)
    // Gone back and on again it comes out the same.
    run.backTo(17)
    run.runTo(90)
    expect(run.hash).toBe(rehearsed(parting([1, 1], 12), 90, 5).hash)
  })

  it('that is changed while they come is taken as it then is, and a lane that is gone leads nowhere', () => {
    const level = parting([1, 0], 8)
    const patch = changeThings.apply(level, {
      in: 'links',
      changes: { ln_n: { share: 0 }, ln_s: { share: 1 } },
    } as never).patch
    const run = rehearsed(level, 60, 1, [{ step: 240, do: 'edit', patch }])
    const taken = turns(run)
    expect(taken).toHaveLength(8)
    expect(taken.at(-1)).toBe('rt_s')
    const without = parting([1, 1], 4)
    delete without.links.ln_n
    delete without.links.ln_s
    const end = rehearsed(without, 40)
    expect(turns(end)).toEqual([])
    expect(end.engine.events.list.filter((e) => e.kind === 'left')).toHaveLength(4)
  })

  it('that leads back into the same lane is gone round, and one without any share is none', () => {
    const level = parting([0, 0], 1)
    expect(turns(rehearsed(level, 30))).toEqual([])
    // From the end of the lane over a link back to its beginning, again and again.
    delete level.links.ln_s
    level.links.ln_n = { ...level.links.ln_n, toId: 'wp_0', share: 1 }
    const run = rehearsed(level, 120)
    expect(new Set(turns(run))).toEqual(new Set(['rt_a']))
    expect(turns(run).length).toBeGreaterThan(1)
    expect(run.engine.events.list.some((e) => e.kind === 'left')).toBe(false)
  })

  it('in the middle of a lane lets it go on beside the others', () => {
    const level = parting([1, 0], 60)
    // The lane itself goes on to the east; the link to the straight lane is gone.
    level.waypoints.wp_far = { ...level.waypoints.wp_0, at: [90, 55, 0] }
    level.routes.rt_a.stops.st_far = { ...level.routes.rt_a.stops.st_0, waypointId: 'wp_far' }
    level.routes.rt_a.order.push('st_far')
    delete level.links.ln_s
    const run = rehearsed(level, 170)
    const north = turns(run).filter((id) => id === 'rt_n').length
    // Half of them: 30 ± 3 · √15.
    expect(Math.abs(north - 30)).toBeLessThan(12)
    const farthest = Math.max(
      ...framesOf(run)
        .flat()
        .map((r) => r.x),
    )
    expect(farthest).toBeGreaterThan(85)
  })
})
