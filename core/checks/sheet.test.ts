import { box, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import { recordedOf } from '@tidytrail/core/rehearsal'
import { describe, expect, it } from 'vitest'
import { CheckedSurvey, PROOFS, proofSheet } from '.'
import type { Level } from '@tidytrail/core/level'

const places = [[10, 10], [40, 10]] as const // prettier-ignore
function sheetOf(level: Level, seconds: number, run = rehearsed(level, seconds)) {
  const findings = new CheckedSurvey().update(level)
  return proofSheet(level, findings, run.verdicts(), recordedOf(run))
}

describe('the sheet of proofs', () => {
  it('says yes to everything where all is well, for the route and for who is on it', () => {
    const rows = sheetOf(travelLevel(preset('Warden'), places, { stop: { 1: { pause: { minS: 3, maxS: 3 } } } }), 60)
    expect(rows.map((r) => [r.kind, r.name])).toEqual([['route', 'Way'], ['agent', 'Start']]) // prettier-ignore
    for (const row of rows)
      for (const proof of PROOFS) expect([row.kind, proof, row.cells[proof].holds]).toEqual([row.kind, proof, true])
    expect(rows[1].cells.pauses.words).toBe('1 pause kept')
  })

  it('shows what the level says against it, with the thing to look at', () => {
    const [route, agent] = sheetOf(travelLevel(preset('Warden'), places, { solids: { sd_w: box(20, 0, 21, 120) } }), 20)
    expect(agent.cells.connects).toMatchObject({ holds: false, subjects: expect.arrayContaining(['rt_a']) })
    expect(agent.cells.followed.holds).toBe(false)
    expect(route.cells.connects.words).toMatch(/^1 of 1: Start, /)
  })

  it('shows a pause that was cut short, and when; what was never tried is neither', () => {
    const level = travelLevel(preset('Warden'), places, { stop: { 1: { pause: { minS: 6, maxS: 6 } } } })
    const run = rehearsed(level, 60)
    const recorded = recordedOf(run)
    const reached = recorded.events.find((e) => e.kind === 'reached' && e.b > 0)!
    // As if it had been told to stay twice as long.
    const longer = { ...recorded, events: recorded.events.map((e) => (e === reached ? { ...e, b: 12_000 } : e)) }
    const rows = proofSheet(level, [], run.verdicts(), longer)
    expect(rows[1].cells.pauses).toMatchObject({ holds: false, momentS: reached.step * recorded.stepS })
    expect(rows[1].cells.pauses.words).toMatch(/left stop 2 after 6\.\d of 12\.0 s/)
    const without = proofSheet(level, [], run.verdicts(), undefined)
    expect(without[1].cells.followed).toMatchObject({ holds: undefined, words: 'nothing was rehearsed' })
    expect(without[1].cells.connects.holds).toBe(true)
  })
})
