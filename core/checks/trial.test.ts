import { levelSchema, PRESETS, type Level, type LevelInput } from '@tidytrail/core/level'
import { box, follower, mendAll, net, randomLevel, tally, withRoutes, type Place } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { applyFix, CheckedSurvey, helps, mendInTurn, waysOf, waysOut, type Finding } from '.'

const survey = (level: Level) => {
  const made = new CheckedSurvey()
  made.update(level)
  return made
}
/** What the checks find of a level, by a survey that knows nothing of it. */
const afresh = (level: Level) => new CheckedSurvey().update(level)
function onto(deckM: number, more: Partial<LevelInput> = {}, name = 'Block 2') {
  const at: Place[] = [
    [10, 30, 0],
    [50, 30, deckM],
  ]
  const deck = box(40, 20, 60, 40, deckM, { name, walkable: true })
  return withRoutes({ a: { at, name: 'Beat' } }, { ...follower('rt_a'), ...more }, { sd_deck: deck })
}
const only = (level: Level, check: string) => {
  const found = afresh(level).filter((f) => f.check === check)
  expect(found).toHaveLength(1)
  return found[0]
}

describe('a leg up onto a ledge that is too high', () => {
  it('says by how much, and offers every way out there is', () => {
    const level = onto(1)
    const finding = only(level, 'route.leg-blocked')
    expect(finding.message).toBe(
      'Warden cannot walk leg 1 to 2 of Beat: up onto Block 2 it is 1.00 m, and Warden steps 0.40 m.',
    )
    const ways = waysOut(survey(level), finding)
    expect(ways.map((w) => w.label)).toEqual([
      expect.stringMatching(/^Move stop 2 10\.\d m to where it can be reached$/),
      'Put a ladder of 1.00 m there',
      expect.stringMatching(/^Lay a ramp of 2\.\d\d m up to it$/),
      'Lower Block 2 to 0.40 m',
      'Let Warden step 1.00 m',
    ])
    for (const way of ways) expect(tally(afresh(applyFix(level, way).level))[0], way.label).toBe(0)
  })

  it('offers a jump where the body is up to it, and no higher step where that would be a stride over a wall', () => {
    const jumped = onto(0.55)
    expect(waysOut(survey(jumped), only(jumped, 'route.leg-blocked')).map((w) => w.label)).toContain('Put a jump there')
    const tower = onto(3)
    const labels = waysOut(survey(tower), only(tower, 'route.leg-blocked')).map((w) => w.label)
    expect(labels).toContain('Put a ladder of 3.00 m there')
    expect(labels.join()).not.toMatch(/step|jump/)
  })

  it('takes down with a block what lies on it', () => {
    const level = onto(1)
    const lower = waysOf(only(level, 'route.leg-blocked')).find((w) => w.label.startsWith('Lower'))!
    expect(applyFix(level, lower).level.waypoints.wp_a1.at).toEqual([50, 30, 0.4])
  })

  it('lets ways be found where legs are walked as drawn and something is put there to get up', () => {
    const drawn = withRoutes(
      {
        a: {
          at: [
            [10, 30, 0],
            [50, 30, 1],
          ] as Place[],
          legs: 'drawn',
        },
      },
      follower('rt_a'),
      { sd_deck: box(40, 20, 60, 40, 1, { name: 'Block 2', walkable: true }) },
    )
    const ladder = waysOut(survey(drawn), only(drawn, 'route.leg-blocked')).find((w) => /ladder/.test(w.label))!
    const mended = applyFix(drawn, ladder).level
    expect(mended.routes.rt_a.legs).toBe('found')
    expect(Object.values(mended.passages)).toMatchObject([{ kind: 'ladder', name: 'Ladder to Block 2', twoWay: true }])
  })
})

describe('a leg through what is shut or too narrow', () => {
  const walls = (gapM: number) => ({
    sd_s: box(30, -1, 31, 30 - gapM / 2, 3, { name: 'South wall' }),
    sd_n: box(30, 30 + gapM / 2, 31, 61, 3, { name: 'North wall' }),
  })
  const at: Place[] = [
    [10, 30, 0],
    [50, 30, 0],
  ]
  const profiles = { pf_lamp: { ...PRESETS[1], name: 'Lamplighter' } }

  it.each([0.62, 0.5, 0.68])('gives the width of a gap of %f m, and sends who fits', (gapM) => {
    const { briefs, spawners } = follower('rt_a')
    const level = withRoutes(
      { a: { at } },
      { briefs, spawners: { ...spawners, sp_b: { name: 'Loft', at: [5, 5, 0], profileId: 'pf_lamp' } }, profiles },
      walls(gapM),
    )
    const finding = only(level, 'route.leg-blocked')
    expect(finding.message).toContain(
      `the gap between North wall and South wall is ${gapM.toFixed(2)} m; Warden needs 0.70 m.`,
    )
    const labels = waysOut(survey(level), finding).map((w) => w.label)
    if (gapM >= 0.6) expect(labels).toContain('Send Lamplighter instead')
    else expect(labels).not.toContain('Send Lamplighter instead')
    const radiusM = Math.floor((gapM / 2 - 0.005) * 100) / 100
    expect(labels).toContain(`Let Warden be ${radiusM.toFixed(2)} m in radius`)
  })

  it('names a door that is locked, and unlocks it', () => {
    const door = { name: 'Door 3', kind: 'door' as const, from: [29, 30, 0] as Place, to: [32, 30, 0] as Place }
    const level: Level = levelSchema.parse({
      ...withRoutes({ a: { at } }, follower('rt_a'), walls(0)),
      passages: { pg_a: { ...door, state: 'locked' }, pg_b: { ...door, name: 'Hatch', profileIds: ['pf_lamp'] } },
      profiles: { ...withRoutes({ a: { at } }).profiles, ...profiles },
    })
    const finding = only(level, 'route.leg-blocked')
    expect(finding.message).toContain('leg 1 to 2 of a: Door 3 is locked.')
    expect(waysOut(survey(level), finding).map((w) => w.label)).toContain('Unlock Door 3')
    const { pg_b } = level.passages
    const open = { ...level, passages: { pg_b } }
    expect(only(open, 'route.leg-blocked').message).toContain('Hatch is not for Warden.')
    expect(waysOut(survey(open), only(open, 'route.leg-blocked')).map((w) => w.label)).toContain(
      'Let Warden through Hatch',
    )
  })
})

describe('trying a fix', () => {
  const finding = (check: string, severity: Finding['severity'], ...subjects: string[]): Finding => ({
    check,
    severity,
    subjects,
    stage: 'routes',
    at: [0, 0, 0],
    message: '',
  })
  const a = finding('a', 'warning', 'x')
  it.each<[string, Finding[], Finding[], boolean]>([
    ['the finding is gone', [a], [], true],
    ['it stays', [a], [a], false],
    ['a note takes its place', [a], [finding('b', 'note', 'x')], true],
    ['another as grave takes its place', [a], [finding('b', 'warning', 'x')], false],
    ['a graver one takes its place', [a], [finding('b', 'blocker', 'x')], false],
    ['two notes take its place', [a], [finding('b', 'note', 'x'), finding('b', 'note', 'y')], false],
    ['one of two of its kind goes', [a, a], [a], true],
    ['it goes on under the name of another of its kind', [a, finding('a', 'warning', 'x', 'y')], [a], true],
  ])('when %s', (_what, before, after, expected) => {
    expect(helps(before.at(-1)!, before, after)).toBe(expected)
  })

  it('leaves the survey as it was', () => {
    const level = onto(1)
    const one = survey(level)
    const before = one.findings
    for (const f of before) waysOut(one, f)
    expect(one.findings).toBe(before)
    expect(one.level).toBe(level)
    expect(one.recheck()).toEqual(afresh(level))
    expect(one.plannerFor('pf_warden')!.map.reachedAt(50, 30, 1)).toBeDefined()
  })

  it('offers no fix the level no longer has a place for', () => {
    const level = net(
      [
        [10, 10, 0],
        [20, 10, 0],
      ],
      [],
    )
    const [split] = afresh(level).filter((f) => f.check === 'network.split')
    const without = { ...level, waypoints: {}, routes: {}, links: {} }
    expect(waysOut(survey(without), split)).toEqual([])
  })

  it('makes those of many that still help once those before them have been made', () => {
    const places: Place[] = [0, 1, 2, 3].map((k): Place => [10 + 10 * k, 10, 0])
    const level = net(places, [])
    const one = survey(level)
    const split = one.findings.filter((f) => f.check === 'network.split')
    expect(split).toHaveLength(3)
    const fixes = mendInTurn(one, split)
    const mended = fixes.reduce((l, fix) => applyFix(l, fix).level, level)
    expect(afresh(mended).filter((f) => f.check === 'network.split')).toEqual([])
    expect(one.findings.filter((f) => f.check === 'network.split')).toHaveLength(3)
  })
})

it('mending whatever is offered, in any order, comes to an end with fewer findings and none graver', () => {
  const from = Number(process.env.TIDYTRAIL_FUZZ_SEED ?? 1)
  const count = Number(process.env.TIDYTRAIL_MEND_LEVELS ?? 40)
  const sum = { first: [0, 0, 0], last: [0, 0, 0], steps: 0 }
  for (let seed = from; seed < from + count; seed++) {
    const { level, first, last, findings, steps } = mendAll(randomLevel(seed), seed)
    expect(last.reduce((a, b) => a + b)).toBeLessThanOrEqual(first.reduce((a, b) => a + b))
    expect(last[0], `level ${seed}`).toBeLessThanOrEqual(first[0])
    // What edit by edit has been kept up to date is what a survey from scratch finds.
    if (seed % 8 === 0) expect(findings).toEqual(afresh(level))
    for (const k of [0, 1, 2]) {
      sum.first[k] += first[k]
      sum.last[k] += last[k]
    }
    sum.steps += steps
  }
  console.info(
    `${count} random levels: ${sum.first.join('/')} blockers, warnings and notes; ${sum.last.join('/')} after ${sum.steps} fixes`,
  )
  expect(sum.last[0]).toBeLessThan(sum.first[0] / 2)
})
