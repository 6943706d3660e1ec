import { addThing, applyPatch, type Level } from '@tidytrail/core/level'
import { FRAME_FIELDS, rehearseLevel, unpackFrames } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { preset, smallLevel, travelLevel } from '@tidytrail/core/testing'
import { expect, it, vi } from 'vitest'
import type { RunNews } from './rehearsal.protocol'

vi.mock('comlink', () => ({ transfer: <T>(value: T) => value }))
const { makeRehearsing } = await import('./rehearsing')

const breathe = () => new Promise<void>((resolve) => setTimeout(resolve, 0))

/** A rehearser over a survey of a level, and what it tells. */
function hired(level: Level | undefined) {
  const survey = new Survey()
  if (level) survey.update(level)
  const told: RunNews[] = []
  const failures: string[] = []
  const state = { level, surveying: false }
  const rehearsing = makeRehearsing(
    survey,
    breathe,
    () => state.surveying,
    () => state.level,
  )
  rehearsing.start({ news: (n) => told.push(n), runFailed: (_run, why) => failures.push(why) })
  const ended = async (): Promise<RunNews> => {
    for (;;) {
      const last = told.at(-1)
      if (last?.hash !== undefined) return last
      if (failures.length > 0) throw new Error(failures[0])
      await breathe()
    }
  }
  /** The frames as somebody has them who took all news in. */
  const frames = () => {
    const list: Int32Array[] = []
    for (const { chunks } of told)
      for (const c of chunks) unpackFrames(c.bytes, FRAME_FIELDS).forEach((f, k) => (list[c.first + k] = f))
    return list
  }
  return { survey, rehearsing, told, failures, state, ended, frames }
}
/** A crate put on the small level. */
const crate = (level: Level) => {
  const [solid] = Object.values(level.solids)
  return addThing.apply(level, { in: 'solids', id: 'sd_new', thing: { ...solid, name: 'Crate' } as never }).patch
}

it('tells every frame, and gives the same recording as at one go', async () => {
  const level = smallLevel()
  const { rehearsing, ended, frames, told } = hired(level)
  rehearsing.begin(1, 7, 20)
  const { hash } = await ended()
  const { run } = rehearseLevel(level, { seed: 7, seconds: 20 })
  expect(hash).toBe(run.hash)
  expect(frames()).toEqual(Array.from({ length: 201 }, (_, k) => run.engine.recording.frame(k)))
  expect(told.flatMap((n) => n.agents.list).length).toBe(run.engine.members.length)
  expect(told.flatMap((n) => n.events.list)).toEqual(run.engine.events.list)
  const judged = told.flatMap((n) => n.verdicts.list)
  expect(judged.map((j) => Math.round(j.t))).toEqual(Array.from({ length: 21 }, (_, k) => k))
  expect(judged.at(-1)!.verdicts).toEqual(run.verdicts())
})

it('tells the first of it long before the end', async () => {
  const { rehearsing, told, ended } = hired(smallLevel())
  rehearsing.begin(1, 7, 600)
  while (told.length === 0) await breathe()
  expect(told[0].t).toBeLessThan(300)
  expect(told[0].verdicts.list[0].t).toBe(0)
  await ended()
})

it('takes an edit in at the moment that is looked at, and what comes of it is the same when it is repeated', async () => {
  const level = smallLevel()
  const { rehearsing, survey, ended, told, state, frames } = hired(level)
  rehearsing.begin(1, 7, 20)
  await ended()
  const before = frames().slice(0, 80)
  rehearsing.lookAt(8)
  const patch = crate(level)
  rehearsing.beforeEdit(patch)
  state.level = applyPatch(level, patch)
  survey.update(state.level, patch)
  told.push({ ...told.at(-1)!, chunks: [], hash: undefined })
  rehearsing.edited(state.level)
  const { hash, marks } = await ended()
  expect(marks).toEqual([{ t: 8, what: 'edit' }])
  expect(frames().slice(0, 80)).toEqual(before)
  expect(hash).toBe(
    rehearseLevel(level, { seed: 7, seconds: 20, commands: [{ step: 240, do: 'edit', patch }] }).run.hash,
  )
})

it('waits while the survey is being worked on, and tells nothing of what was given up', async () => {
  const { rehearsing, told, state, ended } = hired(smallLevel())
  state.surveying = true
  rehearsing.begin(1, 7, 5)
  for (let k = 0; k < 20; k++) await breathe()
  expect(told).toEqual([])
  rehearsing.begin(2, 7, 5)
  state.surveying = false
  expect((await ended()).run).toBe(2)
  expect(told.every((n) => n.run === 2)).toBe(true)
  rehearsing.giveUp()
  expect(rehearsing.script()).toBeUndefined()
})

it('says in words that a rehearsal came to nothing', async () => {
  const { rehearsing, failures, state } = hired(smallLevel())
  state.level = { ...smallLevel(), spawners: null } as unknown as Level
  rehearsing.begin(1, 7, 5)
  while (failures.length === 0) await breathe()
  expect(failures).toHaveLength(1)
  expect(failures[0].length).toBeGreaterThan(5)
})

it('tells where everybody has been and how far off they were, up to a moment, and what makes the run repeatable', async () => {
  const level = travelLevel(
    preset('Warden'),
    [
      [10, 10],
      [30, 10],
    ],
    { route: { travel: 'there-and-back' }, sideM: 40 },
  )
  const { rehearsing, ended, frames } = hired(level)
  expect(await rehearsing.heat(5)).toBeUndefined()
  expect(rehearsing.straying(5)).toEqual([])
  expect(rehearsing.script()).toBeUndefined()
  rehearsing.begin(1, 7, 40)
  await ended()
  const spent = async (t: number) => (await rehearsing.heat(t))!.seconds.reduce((a, b) => a + b, 0)
  const rows = (until: number) =>
    frames()
      .slice(0, until * 10 + 1)
      .reduce((n, f) => n + f.length / FRAME_FIELDS, 0)
  expect(await spent(40)).toBeCloseTo(rows(40) / 10, 1)
  expect(await spent(6)).toBeCloseTo(rows(6) / 10, 1)
  expect(rehearsing.straying(40).some((leg) => leg.offM.some((m) => m >= 0))).toBe(true)
  rehearsing.lookAt(8)
  rehearsing.makeNoise(`${Object.keys(level.spawners)[0]}#1`)
  const { seed, seconds, commands } = rehearsing.script()!
  expect({ seed, seconds }).toEqual({ seed: 7, seconds: 40 })
  expect(commands).toMatchObject([{ step: 240, do: 'noise' }])
})

it('gives up gathering heat when another run has begun', async () => {
  const { rehearsing, ended } = hired(smallLevel())
  rehearsing.begin(1, 7, 60)
  await ended()
  const heat = rehearsing.heat(60)
  rehearsing.begin(2, 7, 5)
  expect(await heat).toBeUndefined()
})
