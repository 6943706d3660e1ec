import { describe, expect, it } from 'vitest'
import { box, foundIn, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'

const warden = preset('Warden')
const way = [
  [10, 10],
  [40, 10],
] as const

describe('what is found by rehearsing', () => {
  it('is nothing where all follow', () => {
    expect(foundIn(rehearsed(travelLevel(warden, way), 40))).toEqual([])
  })

  it('is an agent that does not follow, at its spawner and its route, with why', () => {
    const run = rehearsed(travelLevel(warden, way, { solids: { sd_w: box(20, 0, 21, 120) } }), 40)
    const [f] = foundIn(run)
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
    const stuck = foundIn(run).find((f) => f.check === 'rehearsal.stuck')!
    expect(stuck.severity).toBe('blocker')
    expect(stuck.message).toContain('keeping clear of Plug')
    expect(Math.abs(stuck.at[0] - 21)).toBeLessThan(4)
  })

  it('is an agent that never comes to its first stop, with why there is no way', () => {
    const pen = [box(4, 4, 16, 5), box(4, 15, 16, 16), box(4, 5, 5, 15), box(15, 5, 16, 15)]
    const solids = Object.fromEntries(pen.map((b, k) => [`sd_${k}`, b]))
    const level = travelLevel(
      warden,
      [
        [30, 10],
        [50, 10],
      ],
      { solids, spawner: { at: [10, 10, 0] } },
    )
    const [f] = foundIn(rehearsed(level, 20))
    expect(f).toMatchObject({ check: 'rehearsal.never-arrived', severity: 'blocker', subjects: ['sp_a', 'rt_a'] })
    expect(f.message).toContain('the way to stop 1 of Way cannot be walked')
    expect(f.moment).toBeLessThan(1)
  })

  it('is who stood in another one, where a passage ends in somebody', () => {
    // A wall with a way through it that ends just where somebody stands.
    const passage = { kind: 'portal', name: 'Door', from: [19, 10, 0], to: [23, 10, 0] }
    const level = travelLevel(warden, way, {
      solids: { sd_w: box(20.5, 0, 21, 120) },
      spawner: { firstAfterS: 1 },
      more: { passages: { pg_a: passage } } as never,
    })
    level.spawners.sp_b = { ...level.spawners.sp_a, name: 'Guard', at: [23, 10, 0], briefId: null, firstAfterS: 0 }
    const run = rehearsed(level, 30)
    const overlaps = foundIn(run).filter((f) => f.check === 'rehearsal.overlap')
    expect(overlaps.map((f) => f.subjects[0]).sort()).toEqual(['sp_a', 'sp_b'])
    expect(overlaps.find((f) => f.subjects[0] === 'sp_a')!.message).toMatch(/^Start stood in Guard for 0\.\d s/)
    // It points at the moment it came out of the passage.
    const crossed = run.engine.events.list.find((e) => e.kind === 'crossed')!
    expect(overlaps[0].moment - crossed.step / 30).toBeGreaterThan(0.9)
    expect(overlaps[0].moment - crossed.step / 30).toBeLessThan(1.6)
  })

  it('is what was changed on the way, as a note', () => {
    const notes = foundIn(rehearsed(travelLevel(warden, way), 10), 2)
    expect(notes).toMatchObject([{ check: 'rehearsal.stale', severity: 'note' }])
    expect(notes[0].message).toContain('2 times')
  })
})
