import { stillMoment } from '../still-moment'
import { terrainOf } from '@tidytrail/core/ground'
import { box, preset, sceneLevel } from '@tidytrail/core/testing'
import { levelSchema } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import type { AgentMoment } from '../../stores/rehearsal'
import { recordingPen } from '../recording-pen'
import { wedgeOf, Wedges } from './senses'
import { drawEarlier, drawStraying, drawWants } from './watched'

/** Ten pixels a metre, the place 0, 0 in the middle of the window. */
const view = { x: 0, y: 0, scale: 10, width: 200, height: 200 }

describe('what is watched', () => {
  it('shows a want as a line to where it would lead in a second, and none for those who want to stand', () => {
    const { pen, marks } = recordingPen(view)
    drawWants(pen, [stillMoment({ want: 2, wantTurn: Math.PI / 2 }), stillMoment({ x: 5 })])
    const ends = marks('lineTo')
    // The line to the north and the bar across its end.
    expect(ends).toHaveLength(2)
    expect(ends[0][0]).toBeCloseTo(100, 6)
    expect(ends[0][1]).toBeCloseTo(80, 6)
    expect(marks('moveTo')).toHaveLength(2)
  })

  it('inks each stretch by how far somebody strayed there, and leaves out where nobody was', () => {
    const { pen, all } = recordingPen(view)
    const points = Float64Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0, 3, 0, 0, 4, 0, 0])
    drawStraying(pen, [{ routeId: 'rt_a', points, offM: Float32Array.from([0.1, 0.6, 3, -1]) }], {
      remark: 0.5,
      fail: 2,
    })
    const lines = all.filter((m) => m.call === 'lineTo').map((m) => [m.stroke, m.args[0]])
    expect(lines).toEqual([
      ['pine', 110],
      ['ochre', 120],
      ['alarm', 130],
    ])
  })

  it('draws the run before only where it was elsewhere', () => {
    const drawn = (then: AgentMoment | undefined) => {
      const { pen, marks } = recordingPen(view)
      drawEarlier(pen, (t) => (t <= 9 ? then : undefined), stillMoment(), 9, 0.3)
      return marks('stroke').length
    }
    expect(drawn(stillMoment({ x: 0.05 }))).toBe(0)
    expect(drawn(undefined)).toBe(0)
    expect(drawn(stillMoment({ x: 2 }))).toBe(2)
  })
})

describe('wedges of sight', () => {
  const level = levelSchema.parse(sceneLevel(60, 60, { sd_a: box(34, 20, 36, 40) }))
  const terrain = terrainOf(level)
  const profile = { ...preset('Warden'), sightM: 20, sightRad: Math.PI / 2 }
  const looker = (key: number, more: Partial<AgentMoment> = {}) => ({
    key,
    profile,
    now: stillMoment({ x: 30, y: 30, ...more }),
  })

  it('end at what blocks sight, and at the range where nothing does', () => {
    const wedge = wedgeOf(terrain, profile, looker(1).now)
    const rays = Array.from({ length: wedge.length / 2 - 1 }, (_, k) => [wedge[2 * k + 2], wedge[2 * k + 3]])
    // Straight ahead a wall is four metres off.
    const ahead = rays[Math.floor(rays.length / 2)]
    expect(ahead[0]).toBeGreaterThan(33.5)
    expect(ahead[0]).toBeLessThan(34.3)
    const away = wedgeOf(terrain, profile, looker(1, { heading: Math.PI }).now)
    for (let k = 1; k < away.length / 2; k++)
      expect(Math.hypot(away[2 * k] - 30, away[2 * k + 1] - 30)).toBeCloseTo(20, 6)
  })

  it('are found anew for those who moved, as many as there is time for, the longest known first', () => {
    const wedges = new Wedges()
    const all = (heading: number) => Array.from({ length: 6 }, (_, k) => looker(k + 1, { heading }))
    const first = wedges.of(terrain, all(0), () => 0)
    expect(first.every((w) => w !== undefined)).toBe(true)
    // Nobody moved: nothing is found anew.
    expect(wedges.of(terrain, all(0), () => 0).every((w, k) => w === first[k])).toBe(true)
    // All turned, and each look at the clock takes four milliseconds.
    let now = 0
    const clock = () => (now += 4)
    const anew = new Set<number>()
    for (let frame = 0; frame < 6; frame++) {
      const then = wedges.of(terrain, all(1), clock)
      const changed = then.flatMap((w, k) => (w === first[k] ? [] : [k]))
      expect(changed.length).toBeLessThan(6 * (frame + 1))
      for (const k of changed) anew.add(k)
    }
    expect(anew.size).toBe(6)
    // A profile that sees farther is another look, though nobody moved.
    const far = all(1).map((l) => ({ ...l, profile: { ...profile, sightM: 30 } }))
    const [before] = wedges.of(terrain, all(1), () => 0)
    expect(wedges.of(terrain, far, () => 0)[0]).not.toBe(before)
    // Who is new has no wedge while there is no time for it.
    let late = 0
    expect(new Wedges().of(terrain, all(0), () => (late += 100))).toEqual(Array(6).fill(undefined))
  })
})
