import type { Request, RequestHandler } from 'express'
import { HttpProblem } from './problem'

/** What a body has to keep to. */
export interface Pace {
  /** Milliseconds before the rate counts, and in which at least something must come. */
  readonly graceMs: number
  /** Bytes a second, on average after that. */
  readonly leastRate: number
  /** Longest a body may take, milliseconds. */
  readonly mostMs: number
}

export const PACE: Pace = { graceMs: 10_000, leastRate: 16 * 1024, mostMs: 300_000 }

/** Bytes of request bodies that may be in memory at once, all requests together. */
const MOST_IN_MEMORY = 384 * 1024 * 1024
/** Room a body of unknown length begins with. */
const FIRST_BYTES = 64 * 1024
/** Uploads that are laid aside on disk at once. */
const MOST_UPLOADS = 16

let inMemory = 0
let uploads = 0

/** The parts of a body, as long as they keep coming. @throws HttpProblem 408 when they come too slowly */
export async function* steadily(req: Request, pace: Pace): AsyncGenerator<Buffer> {
  if (req.headers['content-encoding'] && req.headers['content-encoding'] !== 'identity')
    throw new HttpProblem(415, 'send the body as it is, without a content encoding')
  const began = Date.now()
  let total = 0
  let atLast = 0
  let giveUp: (problem: HttpProblem) => void
  const late = new Promise<never>((_, reject) => (giveUp = reject))
  late.catch(() => {})
  const watch = setInterval(() => {
    const ms = Date.now() - began
    const stalled = total === atLast || (total * 1000) / ms < pace.leastRate
    atLast = total
    if (stalled)
      giveUp(new HttpProblem(408, `only ${total} bytes came in ${Math.round(ms / 1000)} s; the request was given up`))
    else if (ms > pace.mostMs) giveUp(new HttpProblem(408, `the body took longer than ${pace.mostMs / 1000} s`))
  }, pace.graceMs)
  watch.unref()
  // Stepped by hand: leaving a loop over it would cut the connection before the answer is through.
  const parts = (req as AsyncIterable<Buffer>)[Symbol.asyncIterator]()
  try {
    for (;;) {
      const { done, value } = await Promise.race([parts.next(), late])
      if (done) return
      total += value.byteLength
      yield value
    }
  } catch (error) {
    throw (error as NodeJS.ErrnoException).code === 'ECONNRESET' ? new HttpProblem(400, 'the body was cut off') : error
  } finally {
    clearInterval(watch)
  }
}

/** A body whole, in memory. @throws HttpProblem 408, 413, or 503 when too much is in memory already */
export async function wholeBody(req: Request, limit: number, pace: Pace): Promise<Uint8Array<ArrayBuffer>> {
  const tooLarge = () =>
    new HttpProblem(413, `the request is larger than the ${Math.round(limit / 1024 / 1024)} MB this server takes here`)
  const length = Number(req.headers['content-length'] ?? NaN)
  if (length > limit) throw tooLarge()
  // Put together while it comes, so that nothing stands still when all of it is there.
  let whole = new Uint8Array(Number.isFinite(length) ? length : FIRST_BYTES)
  let total = 0
  let counted = 0
  try {
    for await (const part of steadily(req, pace)) {
      if (total + part.byteLength > limit) throw tooLarge()
      if (inMemory + part.byteLength > MOST_IN_MEMORY)
        throw new HttpProblem(503, 'too many large requests at once; nothing was changed, try again')
      inMemory += part.byteLength
      counted += part.byteLength
      if (total + part.byteLength > whole.byteLength) {
        const longer = new Uint8Array(Math.min(limit, Math.max(whole.byteLength * 2, total + part.byteLength)))
        longer.set(whole)
        whole = longer
      }
      whole.set(part, total)
      total += part.byteLength
    }
  } finally {
    inMemory -= counted
  }
  return total === whole.byteLength ? whole : whole.slice(0, total)
}

/** Lets only so many uploads in at once. */
export const fewUploads: RequestHandler = (_req, res, next) => {
  if (uploads >= MOST_UPLOADS) throw new HttpProblem(503, 'too many uploads at once; nothing was changed, try again')
  uploads++
  res.once('close', () => uploads--)
  next()
}
