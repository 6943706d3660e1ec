import { describe, expect, it } from 'vitest'
import { box, framesOf, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import type { Run } from '@tidytrail/core/rehearsal'
import { findingsOfRun } from '.'

const found = (run: Run, changes = 0) => {
  const frames = framesOf(run)
  return findingsOfRun({
    level: run.level,
    t: run.t,
    stepS: 1 / 30,
    verdicts: run.verdicts(),
    events: run.engine.events.list,
    changes,
    nameOf: (key) => run.engine.members.find((m) => m.key === key)?.name,
    placeOf: (key, t) => {
      const row = frames[Math.min(frames.length - 1, Math.round(t * 10))]?.find((r) => r.key === key)
      return row && [row.x, row.y, row.z]
    },
  })
}
const warden = preset('Warden')
const way = [
  [10, 10],
  [40, 10],
] as const

describe('what is found by rehearsing', () => {
  it('is nothing where all follow', () => {
    expect(found(rehearsed(travelLevel(warden, way), 40))).toEqual([])
  })

  it('is an agent that does not follow, at its spawner and its route, with why', () => {
    const run = rehearsed(travelLevel(warden, way, { solids: { sd_w: box(20, 0, 21, 120) } }), 40)
    const [f] = found(run)
    expect(f).toMatchObject({ check: 'rehearsal.not-followed', severity: 'warning', subjects: ['sp_a', 'rt_a'] })
    expect(f.message).toContain('leg 1 to 2 of Way cannot be walked')
    expect(f.moment).toBeLessThan(run.t)
  })

  it('is an agent that is stuck, with what holds it up, until it gets on', () => {
    // Somebody stands in a passage that is as narrow as one body, and stays.
    const level = travelLevel(warden, way, {
      solids: { sd_a: box(20, 0, 24, 9.6), sd_b: box(20, 10.4, 24, 120) },
      spawner: { firstAfterS: 1 },
    })
    level.spawners.sp_b = { ...level.spawners.sp_a, name: 'Plug', at: [22, 10, 0], briefId: null, firstAfterS: 0 }
    const run = rehearsed(level, 60)
    const stuck = found(run).find((f) => f.check === 'rehearsal.stuck')!
    expect(stuck.severity).toBe('blocker')
    expect(stuck.message).toContain('keeping clear of Plug')
    expect(Math.abs(stuck.at[0] - 21)).toBeLessThan(4)
  })

  it('is what was changed on the way, as a note', () => {
    const notes = found(rehearsed(travelLevel(warden, way), 10), 2)
    expect(notes).toMatchObject([{ check: 'rehearsal.stale', severity: 'note' }])
    expect(notes[0].message).toContain('2 times')
  })
})
