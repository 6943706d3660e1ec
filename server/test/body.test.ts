import { PassThrough } from 'node:stream'
import type { Request } from 'express'
import { describe, expect, it } from 'vitest'
import { wholeBody } from '../src/http/body'

const pace = { graceMs: 50, leastRate: 1_000, mostMs: 300 }

/** A request whose body comes in parts, at a pace. */
function coming(parts: (Buffer | number)[], headers: Record<string, string> = {}): Request {
  const body = new PassThrough()
  void (async () => {
    for (const part of parts) {
      if (typeof part === 'number') await new Promise((r) => setTimeout(r, part))
      else body.write(part)
    }
    body.end()
  })()
  return Object.assign(body, { headers }) as unknown as Request
}
const bytes = (n: number, value = 7) => Buffer.alloc(n, value)

describe('a body', () => {
  it('comes whole, whether its length was told or not', async () => {
    const parts = [bytes(3, 1), bytes(200_000, 2), bytes(5, 3)]
    const expected = Buffer.concat(parts)
    for (const headers of [{}, { 'content-length': String(expected.length) }] as Record<string, string>[])
      expect(Buffer.from(await wholeBody(coming(parts, headers), 1_000_000, pace)).equals(expected)).toBe(true)
    expect(await wholeBody(coming([]), 10, pace)).toHaveLength(0)
  })

  it('larger than it may be is refused: by what it says, and by what comes', async () => {
    await expect(wholeBody(coming([], { 'content-length': '2000' }), 1_000, pace)).rejects.toMatchObject({
      status: 413,
    })
    await expect(wholeBody(coming([bytes(600), bytes(600)]), 1_000, pace)).rejects.toMatchObject({ status: 413 })
  })

  it('that stalls, drips or never ends is given up', async () => {
    await expect(wholeBody(coming([bytes(1), 400]), 1_000, pace)).rejects.toMatchObject({ status: 408 })
    const drip = Array.from({ length: 40 }, (_, k) => (k % 2 ? 20 : bytes(1)))
    await expect(wholeBody(coming(drip), 1_000, pace)).rejects.toMatchObject({ status: 408 })
    const endless = Array.from({ length: 60 }, (_, k) => (k % 2 ? 20 : bytes(2_000)))
    await expect(wholeBody(coming(endless), 1_000_000, pace)).rejects.toThrow(/longer than 0.3 s/)
  })

  it('that is packed is refused, since it could inflate to anything', async () => {
    await expect(wholeBody(coming([], { 'content-encoding': 'gzip' }), 1_000, pace)).rejects.toMatchObject({
      status: 415,
    })
  })
})
