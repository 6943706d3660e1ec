import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addThing, movePlaces, removeThings, type Level, type PatchOp } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { box, framesOf, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import { Run, type Command } from '.'

const stops = [
  [10, 10],
  [40, 10],
  [40, 40],
  [10, 40],
] as const
const pause = { pause: { minS: 1, maxS: 4 } }

/** Wardens on a round with pauses by chance, a cart on another round, a gull over them. */
function busy(): Level {
  const level = travelLevel(preset('Warden'), stops, {
    route: { travel: 'round' },
    stop: { 1: pause, 3: pause },
    spawner: { count: 6, everyS: 2 },
    sideM: 60,
    solids: { sd_a: box(20, 20, 30, 30) },
  })
  level.profiles.pf_c = preset('Tide-cart')
  level.profiles.pf_g = preset('Gull')
  level.briefs.br_c = { ...level.briefs.br_a }
  level.spawners.sp_c = { ...level.spawners.sp_a, name: 'Cart', at: [25, 10, 0], profileId: 'pf_c', count: 1 }
  level.spawners.sp_g = { ...level.spawners.sp_a, name: 'Gull', at: [50, 50, 6], profileId: 'pf_g', count: 2 }
  return level
}
/** What an edit would change, as the page sends it. */
const edit = (step: number, patch: readonly PatchOp[]): Command => ({ step, do: 'edit', patch })
const crate = (level: Level, x: number, y: number) => {
  const thing = box(x, y, x + 2, y + 2) as never
  return addThing.apply(level, { in: 'solids', id: 'sd_crate', thing: { ...level.solids.sd_a, ...(thing as object) } })
    .patch
}

describe('a run', () => {
  it('that is stopped, put back and gone on with gives the very same bits, at any step', () => {
    const level = busy()
    const whole = rehearsed(level, 24)
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 700 }), fc.integer({ min: 0, max: 700 }), (a, b) => {
        const survey = new Survey()
        survey.update(level)
        const run = new Run(level, 1, survey)
        run.runTo(Math.max(a, b) / 30)
        run.backTo(Math.min(a, b) / 30)
        expect(run.step).toBe(Math.min(a, b))
        run.runTo(24)
        expect(run.hash).toBe(whole.hash)
        expect(run.engine.events.list).toEqual(whole.engine.events.list)
        expect(run.verdicts()).toEqual(whole.verdicts())
      }),
      { numRuns: 8 },
    )
  })

  it('goes back for an edit just to the moment looked at, or where much would have to be run again to one kept before it', () => {
    const level = busy()
    level.spawners.sp_a = { ...level.spawners.sp_a, count: 40, everyS: 0.2 }
    const survey = new Survey()
    survey.update(level)
    // Few moments are kept, so that most lie far behind one.
    const run = new Run(level, 1, survey, [], 1)
    run.runTo(60)
    let exact = 0
    for (let t = 0; t <= 60; t += 0.7) {
      const step = Math.round(t * 30)
      const before = Math.max(...run.keptSteps.filter((s) => s <= step))
      const near = Math.round(run.momentNear(t) * 30)
      if (near === step) exact++
      else expect(near).toBe(before)
      expect((step - before) * 43 > 20_000).toBe(near !== step)
    }
    expect(exact).toBeGreaterThan(0)
    expect(exact).toBeLessThan(60)
    expect(run.momentNear(99)).toBe(60)
    // A key that was pressed in between is not lost: the widest gap between two kept moments, and one in the midst of it.
    const ends = [...run.keptSteps, run.step]
    const gap = run.keptSteps
      .map((from, k) => ({ from, to: ends[k + 1] }))
      .sort((p, q) => q.to - q.from - (p.to - p.from))[0]
    const late = (gap.to - 1) / 30
    expect(Math.round(run.momentNear(late) * 30)).toBe(gap.from)
    run.commands.push({ step: gap.from + 5, do: 'noise', agent: 'sp_g#1' })
    expect(Math.round(run.momentNear(late) * 30)).toBe(gap.to - 1)
  })

  it('makes anew only what an edit concerns', () => {
    const level = busy()
    const survey = new Survey()
    survey.update(level)
    const run = new Run(level, 1, survey)
    const rows = () => [...run.engine.scenario.spawners]
    const take = (patch: readonly PatchOp[]) => {
      const before = rows()
      run.perform(edit(0, patch))
      return rows().map((row, k) => row === before[k])
    }
    expect(take(crate(level, 3, 50))).toEqual([true, true, true])
    const moved = take([{ op: 'replace', path: '/spawners/sp_g/at', value: [48, 50, 6] }])
    expect(
      rows()
        .filter((_, k) => !moved[k])
        .map((r) => r!.id),
    ).toEqual(['sp_g'])
    // A place of the round they follow: all three are told something else.
    const [waypoint] = Object.keys(level.waypoints)
    expect(take([{ op: 'replace', path: `/waypoints/${waypoint}/at`, value: [11, 11, 0] }])).toEqual([
      false,
      false,
      false,
    ])
    // A gait of the wardens is nothing to the cart.
    const walked = take([{ op: 'replace', path: '/profiles/pf_a/gaits/walk', value: 1.1 }])
    expect(
      rows()
        .filter((_, k) => !walked[k])
        .map((r) => r!.id),
    ).toEqual(['sp_a'])
  })

  it('keeps moments close together near where it is, farther apart the longer ago, and goes back to any exactly', () => {
    const level = busy()
    const whole = rehearsed(level, 60)
    const survey = new Survey()
    survey.update(level)
    const run = new Run(level, 1, survey, [], 150_000)
    run.runTo(60)
    const kept = run.keptSteps
    const gaps = kept.slice(1).map((step, k) => step - kept[k])
    expect(kept[0]).toBe(0)
    expect(kept.length).toBeLessThan(40)
    expect(gaps.slice(-3)).toEqual([15, 15, 15])
    expect(Math.max(...gaps.slice(0, 4))).toBeGreaterThan(60)
    for (const t of [58.7, 31, 4.2]) {
      run.backTo(t)
      run.runTo(60)
      expect(run.hash).toBe(whole.hash)
    }
  })

  it('into which an unchanged level is taken goes on as if nothing had been', () => {
    const level = busy()
    const same = [100, 250, 251, 600].map((step) => edit(step, []))
    expect(rehearsed(level, 30, 1, same).hash).toBe(rehearsed(level, 30).hash)
  })

  it('in which a crate is put in the way is gone round by those it concerns, and by nobody else differently', () => {
    const level = busy()
    level.spawners.sp_a.count = 1
    const far = { ...level.spawners.sp_a, name: 'Far', at: [55, 5, 0] as [number, number, number], briefId: null }
    level.spawners.sp_far = far
    const crated = rehearsed(level, 40, 1, [edit(30, crate(level, 24, 9))])
    const plain = rehearsed(level, 40)
    const at = (run: Run, name: string) => {
      const key = run.engine.members.find((m) => m.name === name)!.key
      return framesOf(run).map((f) => f.find((r) => r.key === key)!)
    }
    const walked = at(crated, 'Start')
    const lowest = Math.min(...walked.filter((r) => r.x > 23 && r.x < 27).map((r) => Math.abs(r.y - 10)))
    expect(lowest).toBeGreaterThan(1.2)
    expect(at(crated, 'Far')).toEqual(at(plain, 'Far'))
    expect(crated.commands).toHaveLength(1)
  })

  it('is repeated to the last bit from its level, its seed and what was done to it', () => {
    const level = busy()
    level.spawners.sp_g.standIn = true
    const commands: Command[] = [
      edit(60, crate(level, 24, 9)),
      { step: 90, do: 'steer', agent: 'sp_a#1', x: 0, y: 1, mps: 1.5 },
      { step: 150, do: 'noise', agent: 'sp_a#1' },
      { step: 200, do: 'let-go', agent: 'sp_a#1' },
      edit(300, [{ op: 'replace', path: '/profiles/pf_a/gaits/walk', value: 2 }]),
    ]
    const first = rehearsed(level, 30, 3, commands)
    expect(rehearsed(level, 30, 3, first.commands).hash).toBe(first.hash)
    expect(rehearsed(level, 30, 3).hash).not.toBe(first.hash)
    const kinds = first.engine.events.list.map((e) => e.kind)
    expect(kinds).toEqual(expect.arrayContaining(['steered', 'noise', 'let-go', 'carried-over']))
  })

  it('outlives a level that is edited into nothing, and agents whose route is taken away', () => {
    const level = busy()
    const noRoute = removeThings.apply(level, { ids: ['rt_a'] }).patch
    const gone = rehearsed(level, 20, 1, [edit(200, noRoute)])
    expect(gone.verdicts().find((v) => v.name === 'Cart')!.verdict).not.toBe('follows')
    const nobody = removeThings.apply(level, { ids: ['sp_a', 'sp_c', 'sp_g'] }).patch
    const empty = rehearsed(level, 20, 1, [edit(200, nobody)])
    expect(framesOf(empty).at(-1)).toEqual([])
    expect(empty.engine.members.every((m) => m.leftS !== undefined)).toBe(true)
  })

  it('lets a stop that is dragged be gone to where it now is, from the moment it is', () => {
    const level = busy()
    level.spawners.sp_a.count = 1
    delete level.spawners.sp_c
    const patch = movePlaces.apply(level, { places: { wp_1: [40, 14, 0] } }).patch
    const run = rehearsed(level, 40, 1, [edit(60, patch)])
    const reached = run.engine.events.list.find((e) => e.key === 1 && e.kind === 'reached' && e.a === 1)!
    const row = framesOf(run)[Math.round(reached.step / 3)].find((r) => r.key === 1)!
    expect(Math.hypot(row.x - 40, row.y - 14)).toBeLessThan(0.6)
  })

  it('gone back in over an edit goes on with the level as it now is, as one does that is repeated', () => {
    const level = busy()
    const survey = new Survey()
    survey.update(level)
    const run = new Run(level, 1, survey)
    run.runTo(10)
    run.perform(edit(run.step, crate(level, 24, 9)))
    run.runTo(14)
    run.perform(edit(run.step, movePlaces.apply(run.level, { places: { wp_1: [40, 14, 0] } }).patch))
    run.runTo(20)
    run.backTo(5)
    expect(run.t).toBeCloseTo(5, 1)
    expect(run.level.solids.sd_crate).toBeDefined()
    expect(run.commands).toHaveLength(1)
    run.runTo(25)
    expect(run.verdicts().length).toBe(9)
    // Nobody walks through the crate that stands there now, though it was put there later.
    for (const frame of framesOf(run).slice(60))
      for (const { x, y, state } of frame.filter((r) => r.z < 1 && r.state !== 'blocked'))
        expect(x > 24 && x < 26 && y > 9 && y < 11, `${x}, ${y} ${state}`).toBe(false)
    expect(rehearsed(level, 25, 1, run.commands).hash).toBe(run.hash)
  })

  it('edited again and again while one drags gives what its repetition gives', () => {
    const level = busy()
    const survey = new Survey()
    survey.update(level)
    const run = new Run(level, 1, survey)
    run.runTo(15)
    for (let k = 0; k < 5; k++) {
      run.backTo(8 + k / 15)
      const base = run.level
      const at: [number, number, number] = [40, 10 + k, 0]
      run.perform(edit(run.step, movePlaces.apply(base, { places: { wp_1: at } }).patch))
      run.runTo(9 + k / 2)
    }
    run.runTo(20)
    expect(run.commands.length).toBeGreaterThan(3)
    expect(rehearsed(level, 20, 1, run.commands).hash).toBe(run.hash)
  })

  it('lets a stand-in that was steered go on to the stop it was making for', () => {
    const level = busy()
    level.spawners.sp_a.count = 1
    delete level.spawners.sp_c
    const reached = (commands: Command[]) =>
      rehearsed(level, 60, 1, commands)
        .engine.events.list.filter((e) => e.key === 1 && e.kind === 'reached')
        .map((e) => e.a)
    const steered = reached([
      { step: 900, do: 'steer', agent: 'sp_a#1', x: -1, y: 0, mps: 1 },
      { step: 960, do: 'let-go', agent: 'sp_a#1' },
    ])
    expect(steered.slice(0, 3)).toEqual([0, 1, 2])
  })
})
