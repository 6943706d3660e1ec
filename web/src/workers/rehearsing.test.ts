import type { Level } from '@tidytrail/core/level'
import { rehearseLevel } from '@tidytrail/core/rehearsal'
import { smallLevel } from '@tidytrail/core/testing'
import { expect, it, vi } from 'vitest'
import type { FrameBatch, RehearsalEnd } from './rehearser.protocol'

vi.mock('comlink', () => ({ transfer: <T>(value: T) => value }))
const { makeRehearser } = await import('./rehearsing')

const breathe = () => new Promise<void>((resolve) => setTimeout(resolve, 0))

function rehearsed(level: Level) {
  const batches: FrameBatch[] = []
  const failures: string[] = []
  let done: (end: RehearsalEnd | undefined) => void
  const end = new Promise<RehearsalEnd | undefined>((resolve) => (done = resolve))
  const rehearser = makeRehearser(breathe)
  rehearser.start({
    agents: () => {},
    frames: (batch) => batches.push(batch),
    end: (e) => done(e),
    failed: (_run, why) => {
      failures.push(why)
      done(undefined)
    },
  })
  rehearser.run(1, level, 7, 20)
  return { end, batches, failures }
}

it('sends every frame once and in order, and the same hash as at one go', async () => {
  const level = smallLevel()
  const { end, batches } = rehearsed(level)
  const last = await end
  let next = 0
  for (const { first, frames } of batches) {
    expect(first).toBe(next)
    next += frames.length
  }
  expect(next).toBeGreaterThan(100)
  expect(last?.hash).toBe(rehearseLevel(level, { seed: 7, seconds: 20 }).hash)
})

it('says in words that a rehearsal came to nothing', async () => {
  const broken = { ...smallLevel(), spawners: null } as unknown as Level
  const { end, failures } = rehearsed(broken)
  expect(await end).toBeUndefined()
  expect(failures).toHaveLength(1)
  expect(failures[0].length).toBeGreaterThan(5)
})
