import { STRETCH_BYTES, type RehearsalAbout } from '@tidytrail/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openDatabase } from '../src/store/database'
import { tidy } from '../src/store/upkeep'
import { caller, startHarness, type Harness } from './harness'

let harness: Harness
const call = caller(() => harness)
beforeAll(async () => {
  harness = await startHarness()
})
afterAll(() => harness?.stop())

const about = (bytes: number, more: Partial<RehearsalAbout> = {}): RehearsalAbout => ({
  name: 'First night',
  revision: 1,
  seed: 7,
  seconds: 300,
  hash: '0123456789abcdef',
  agents: 12,
  verdicts: { follows: 9, remarks: 1, fails: 0, untried: 2 },
  trials: { holds: 2, fails: 1 },
  bytes,
  ...more,
})
const level = async () => (await call('POST', '/api/levels', { blank: { name: 'L' } })).body.id as string
const send = (id: string, number: number, bytes: Uint8Array) =>
  fetch(`${harness.url}/api/rehearsals/${id}/stretches/${number}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/octet-stream' },
    body: Buffer.from(bytes),
  })
const file = Uint8Array.from({ length: 2 * STRETCH_BYTES + 1234 }, (_, k) => (k * 7) % 251)
const part = (n: number) => file.slice(n * STRETCH_BYTES, (n + 1) * STRETCH_BYTES)

describe('a kept rehearsal', () => {
  it('comes in stretches in any order, is there once it is whole, and comes back as it was', async () => {
    const levelId = await level()
    const { status, body } = await call('POST', `/api/levels/${levelId}/rehearsals`, about(file.length))
    expect(status).toBe(201)
    for (const n of [2, 0]) expect((await send(body.id, n, part(n))).status).toBe(204)
    const list = async () => (await call('GET', `/api/levels/${levelId}/rehearsals`)).body.rehearsals
    expect(await list()).toEqual([])
    expect(await call('GET', `/api/rehearsals/${body.id}`)).toMatchObject({ status: 404 })
    expect(await call('POST', `/api/rehearsals/${body.id}/whole`)).toMatchObject({
      status: 409,
      body: { detail: expect.stringMatching(/1 stretches have not come: 1/) },
    })
    // Sent again it is what it was sent last.
    expect((await send(body.id, 1, new Uint8Array(STRETCH_BYTES))).status).toBe(204)
    expect((await send(body.id, 1, part(1))).status).toBe(204)
    expect(await call('POST', `/api/rehearsals/${body.id}/whole`)).toMatchObject({ status: 200, body: { seed: 7 } })
    expect(await list()).toMatchObject([{ id: body.id, name: 'First night', bytes: file.length }])
    const back = await fetch(`${harness.url}/api/rehearsals/${body.id}`)
    expect(Buffer.from(await back.arrayBuffer()).equals(Buffer.from(file))).toBe(true)
    expect((await send(body.id, 0, part(0))).status).toBe(409)
    expect((await call('DELETE', `/api/rehearsals/${body.id}`)).status).toBe(204)
    expect(await list()).toEqual([])
    expect(await call('DELETE', `/api/rehearsals/${body.id}`)).toMatchObject({ status: 404 })
  })

  it('is what the shelf tells of its level: the one kept last', async () => {
    const levelId = await level()
    const shelved = async () =>
      (await call('GET', '/api/levels')).body.levels.find((l: { id: string }) => l.id === levelId).rehearsed
    expect(await shelved()).toBeNull()
    for (const [name, fails] of [
      ['First', 2],
      ['Second', 0],
    ] as const) {
      const verdicts = { follows: 5, remarks: 1, fails, untried: 0 }
      const { body } = await call('POST', `/api/levels/${levelId}/rehearsals`, about(3, { name, verdicts }))
      await send(body.id, 0, new Uint8Array(3))
      await call('POST', `/api/rehearsals/${body.id}/whole`)
      expect(await shelved()).toMatchObject({ name, follow: 6, fail: fails, trialsFail: 1 })
      await new Promise((resolve) => setTimeout(resolve, 5))
    }
  })

  it('of the wrong size, of no level or with nonsense said of it is refused, with why', async () => {
    const levelId = await level()
    expect(await call('POST', '/api/levels/lv_nothere/rehearsals', about(10))).toMatchObject({ status: 404 })
    expect(await call('POST', `/api/levels/${levelId}/rehearsals`, about(0))).toMatchObject({
      status: 400,
      body: { at: 'bytes' },
    })
    expect(await call('POST', `/api/levels/${levelId}/rehearsals`, { name: 'x' })).toMatchObject({ status: 400 })
    const { body } = await call('POST', `/api/levels/${levelId}/rehearsals`, about(10))
    expect((await send(body.id, 0, new Uint8Array(9))).status).toBe(422)
    expect((await send(body.id, 1, new Uint8Array(9))).status).toBe(422)
    expect((await send('rh_nothere', 0, new Uint8Array(9))).status).toBe(404)
  })

  it('that never came whole is thrown away after a day, a whole one stays; and it goes with its level', async () => {
    const levelId = await level()
    const half = (await call('POST', `/api/levels/${levelId}/rehearsals`, about(10))).body.id as string
    const whole = (await call('POST', `/api/levels/${levelId}/rehearsals`, about(3))).body.id as string
    await send(whole, 0, new Uint8Array(3))
    await call('POST', `/api/rehearsals/${whole}/whole`)
    const db = await openDatabase(harness.mariadb.url)
    await tidy(db, { deletedDays: 30, historyDays: 180 }, new Date(Date.now() + 2 * 24 * 3600 * 1000))
    expect((await send(half, 0, new Uint8Array(10))).status).toBe(404)
    expect((await fetch(`${harness.url}/api/rehearsals/${whole}`)).status).toBe(200)
    await db.models.LevelRow.destroy({ where: { id: levelId } })
    expect((await fetch(`${harness.url}/api/rehearsals/${whole}`)).status).toBe(404)
    await db.close()
  })
})
