import { describe, expect, it } from 'vitest'
import { changeThings, type Junction, type Level } from '@tidytrail/core/level'
import { laneNet, usualPhases, waysOf } from '@tidytrail/core/traffic'
import {
  collisionsIn,
  crossroads,
  framesOf,
  goneBackIn,
  driven,
  settled,
  withStreams,
  type Row,
} from '@tidytrail/core/testing'
import { FIELD, FRAME_FIELDS, LIMITS } from '..'

type Control = Junction['control']
const put = (level: Level, set: Partial<Junction>): Level =>
  changeThings.apply(level, { in: 'junctions', changes: { jn_0: set } }).level

/** A crossroads with streams on all four arms, settled the usual way of a kind of control. */
function busy(control: Control, side: 'left' | 'right', perH: number): Level {
  const level = crossroads(side)
  const net = laneNet(level)
  const lit = put(level, { control })
  const phases = control === 'signals' ? usualPhases(level, net, lit.junctions.jn_0) : []
  const done = put(lit, { phases })
  return withStreams(control === 'all-way' ? done : settled(done), { perH })
}

/** Seconds, for each body that went over the middle of the crossroads' square, from its appearing to its leaving it. */
function through(frames: readonly Row[][]): number[] {
  const came = new Map<number, number>()
  const left = new Map<number, number>()
  frames.forEach((rows, f) => {
    for (const r of rows) {
      if (!came.has(r.key)) came.set(r.key, f / 10)
      const far = Math.max(Math.abs(r.x - 200), Math.abs(r.y - 200))
      const out = far > 16 && Math.cos(r.heading) * (r.x - 200) + Math.sin(r.heading) * (r.y - 200) > 0
      if (out && !left.has(r.key)) left.set(r.key, f / 10 - came.get(r.key)!)
    }
  })
  return [...left.values()]
}

describe('a crossroads', () => {
  const sides = ['left', 'right'] as const
  const controls = ['give-way', 'stop', 'signals', 'all-way', 'side'] as const
  it.each(sides.flatMap((side) => controls.map((control) => [side, control] as const)))(
    'driven on the %s and settled by %s has no collision, and all get through',
    (side, control) => {
      const run = driven(busy(control, side, 300), 150)
      expect(collisionsIn(run)).toEqual([])
      const times = through(framesOf(run))
      // 4 × 300 an hour for two and a half minutes, but for those still on their way.
      expect(times.length).toBeGreaterThan(30)
      expect(Math.max(...times)).toBeLessThan(150)
    },
  )

  it('sees collisions where nothing is settled, and where the give way is taken away', () => {
    const bare = withStreams(crossroads(), { perH: 300 })
    expect(collisionsIn(driven(bare, 300)).length).toBeGreaterThan(0)
    const given = busy('give-way', 'left', 300)
    expect(collisionsIn(driven(put(given, { yields: [] }), 300)).length).toBeGreaterThan(0)
  })

  it('is left as it is found from any moment on, bit by bit', () => {
    const run = driven(busy('give-way', 'left', 300), 60)
    const again = driven(busy('give-way', 'left', 300), 60)
    expect(again.hash).toBe(run.hash)
    const same = { hash: run.hash, verdicts: run.verdicts() }
    expect(goneBackIn(run, [31.3, 4, 55])).toEqual([same, same, same])
  })

  it('nobody goes over a line on red, nor stands at one all through a green', () => {
    const level = busy('signals', 'left', 300)
    const { phases } = level.junctions.jn_0
    const ways = waysOf(level, laneNet(level), level.junctions.jn_0)
    const cycle = phases.reduce((sum, p) => sum + p.greenS + p.amberS + p.allRedS, 0)
    /** Whether an approach, told by where it heads, has green or amber. */
    const open = (rad: number, t: number): boolean => {
      let s = t % cycle
      for (const p of phases) {
        const mine = ways.some((w) => Math.abs(Math.cos(w.inRad - rad) - 1) < 0.05 && p.linkIds.includes(w.id))
        if (s < p.greenS + p.amberS) return mine
        s -= p.greenS + p.amberS + p.allRedS
        if (s < 0) return false
      }
      return false
    }
    let over = 0
    const run = driven(level, 300)
    const before = new Map<number, number>()
    framesOf(run).forEach((rows, f) => {
      for (const r of rows) {
        // How far its front is beyond the line, 11 m before the middle, along its way in.
        const in_ = Math.cos(r.heading) * (200 - r.x) + Math.sin(r.heading) * (200 - r.y)
        const beyond = 11 - in_ + 1
        const was = before.get(r.key)
        before.set(r.key, beyond)
        if (was === undefined || was > 0 || beyond <= 0) continue
        over++
        expect(open(r.heading, f / 10), `over the line at ${f / 10} s`).toBe(true)
      }
    })
    expect(over).toBeGreaterThan(30)
  })

  it('who turns across waits for who comes towards, and says whom for', () => {
    const run = driven(busy('give-way', 'left', 300), 120)
    const { recording } = run.engine
    let waiting = 0
    let last: Int32Array[] = []
    for (let f = 0; f < recording.frameCount; f++) {
      const frame = recording.frame(f)
      const rows = Array.from({ length: frame.length / FRAME_FIELDS }, (_, n) => frame.subarray(n * FRAME_FIELDS))
      for (const row of rows) {
        if (row[FIELD.limit] !== LIMITS.indexOf('give-way')) continue
        waiting++
        // Whoever is waited for is there, or has just left, and is not oneself.
        expect(row[FIELD.by]).not.toBe(row[0])
        expect([...rows, ...last].some((other) => other[0] === row[FIELD.by])).toBe(true)
      }
      last = rows
    }
    expect(waiting).toBeGreaterThan(50)
  })
})
