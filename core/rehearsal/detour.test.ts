import { describe, expect, it } from 'vitest'
import { box, framesOf, preset, rehearsed, stopsMade, travelLevel } from '@tidytrail/core/testing'
import type { Profile } from '@tidytrail/core/level'

const way = [
  [10, 30],
  [50, 30],
] as const
/** Somebody who stands right in the line of another one's leg, and what lies beside it. */
function inTheWay(profile: Profile, stands: Profile, solids = {}) {
  const level = travelLevel(profile, way, { solids, spawner: { firstAfterS: 1 }, sideM: 60 })
  level.profiles.pf_b = stands
  level.spawners.sp_b = {
    ...level.spawners.sp_a,
    name: 'Post',
    at: [30, 30, 0],
    profileId: 'pf_b',
    briefId: null,
    firstAfterS: 0,
  }
  return level
}
const nearest = (run: ReturnType<typeof rehearsed>) =>
  Math.min(
    ...framesOf(run).flatMap((rows) => {
      const [a, b] = [rows.find((r) => r.key === 2), rows.find((r) => r.key === 1)]
      return a && b ? [Math.hypot(a.x - b.x, a.y - b.y)] : []
    }),
  )

describe('somebody who stands in the way', () => {
  const warden = preset('Warden')
  const cart = preset('Tide-cart')

  it.each<[string, Profile, Profile]>([
    ['a warden by a warden', warden, warden],
    ['a cart by a warden', warden, cart],
    ['a tram-cart by a warden', warden, preset('Tram-cart')],
    ['a warden by a cart', cart, warden],
    ['a cart by a cart', cart, cart],
  ])('is gone round: %s', (_, moves, stands) => {
    const run = rehearsed(inTheWay(moves, stands), 70)
    expect(stopsMade(run, 2)).toEqual([0, 1])
    expect(nearest(run)).toBeGreaterThan(0.98 * (moves.radiusM + stands.radiusM))
    expect(run.engine.events.list.some((e) => e.kind === 'gave-up')).toBe(false)
  })

  it('is gone round on the side where there is room', () => {
    // A wall to the north of the one who stands there.
    const run = rehearsed(inTheWay(warden, cart, { sd_w: box(20, 31, 40, 60) }), 70)
    expect(stopsMade(run, 2)).toEqual([0, 1])
    const past = framesOf(run)
      .flat()
      .filter((r) => r.key === 2 && Math.abs(r.x - 30) < 0.5)
    expect(Math.max(...past.map((r) => r.y))).toBeLessThan(29.2)
  })

  it('holds up who has no room on either side, which is told, and ends in giving up', () => {
    const walls = { sd_n: box(0, 30.6, 60, 60), sd_s: box(0, 0, 60, 29.4) }
    const run = rehearsed(inTheWay(warden, warden, walls), 120)
    expect(stopsMade(run, 2)).toEqual([0])
    const kinds = run.engine.events.list.filter((e) => e.key === 2).map((e) => e.kind)
    expect(kinds).toContain('stuck')
    expect(kinds).toContain('gave-up')
    expect(nearest(run)).toBeGreaterThan(0.98 * 2 * warden.radiusM)
  })
})

it('a cart that is to stand aside backs up straight, within what its profile can do', () => {
  const cart = preset('Tide-cart')
  const level = travelLevel(cart, way, { spawner: { firstAfterS: 0 }, sideM: 60 })
  const run = rehearsed(level, 3)
  const { world } = run.engine
  world.asideUntil[0] = 8
  let back = 0
  let hardest = 0
  for (let k = 0; k < 240; k++) {
    const [vx, vy] = [world.vx[0], world.vy[0]]
    run.next()
    hardest = Math.max(hardest, Math.hypot(world.vx[0] - vx, world.vy[0] - vy) * 30)
    const on = world.vx[0] * world.headX[0] + world.vy[0] * world.headY[0]
    back = Math.min(back, on)
    // It does not turn while it backs up.
    if (on < 0) expect(world.headX[0] * world.vy[0] - world.headY[0] * world.vx[0]).toBeCloseTo(0, 9)
  }
  expect(back).toBeCloseTo(-0.8, 6)
  // Braking and turning at once.
  expect(hardest).toBeLessThan(Math.max(cart.accelMps2, cart.brakeMps2 ?? cart.accelMps2) * 1.05)
  // Then on again.
  run.runTo(40)
  expect(world.x[0]).toBeGreaterThan(49)
})
