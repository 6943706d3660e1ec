import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, LIMIT, WAITS, type Recorded } from '@tidytrail/core/rehearsal'

/** Who moves less than this stands, mm a second. */
const STANDS = 100
/** It is looked for rings so often; one that holds for so long is a gridlock, seconds. */
const EVERY_S = 2
const HOLDS_S = 16

/** What one is held by who waits for somebody, or has run into him. */
const HELD: ReadonlySet<number> = new Set([...WAITS, LIMIT.neighbour])

/** Several who each wait for the next, in a ring, so that none of them can ever go on. Seconds. */
export interface Gridlock {
  readonly fromS: number
  readonly toS: number
  /** In the order in which they wait: each for the one after it, the last for the first. */
  readonly keys: readonly number[]
}

/** The rings of those who stand and wait for each other in a frame, each begun with its least key. */
export function waitingRings(frame: Int32Array): number[][] {
  const waitsFor = new Map<number, number>()
  for (let r = 0; r < frame.length; r += FRAME_FIELDS)
    if (Math.abs(frame[r + FIELD.speed]) < STANDS && HELD.has(frame[r + FIELD.limit]) && frame[r + FIELD.by] > 0)
      waitsFor.set(frame[r], frame[r + FIELD.by])
  const rings: number[][] = []
  const done = new Set<number>()
  for (const start of waitsFor.keys()) {
    const path: number[] = []
    let key = start
    // Everybody waits for one at most: whoever is met again on the way closes a ring.
    while (waitsFor.has(key) && !done.has(key)) {
      done.add(key)
      path.push(key)
      key = waitsFor.get(key)!
    }
    const from = path.indexOf(key)
    if (from < 0) continue
    const ring = path.slice(from)
    const least = ring.indexOf(Math.min(...ring))
    rings.push([...ring.slice(least), ...ring.slice(0, least)])
  }
  return rings
}

/** All gridlocks of a recording, the first first; one that was not over at its end goes up to there. */
export function gridlocks({ frameCount, frame }: Pick<Recorded, 'frameCount' | 'frame'>): Gridlock[] {
  const open = new Map<string, { fromS: number; toS: number; keys: number[] }>()
  const found: Gridlock[] = []
  const close = (ring: { fromS: number; toS: number; keys: number[] }) => {
    if (ring.toS - ring.fromS >= HOLDS_S - 1e-6) found.push(ring)
  }
  for (let f = 0; f < frameCount; f += EVERY_S * FRAMES_PER_SECOND) {
    const t = f / FRAMES_PER_SECOND
    const now = new Map(waitingRings(frame(f)).map((keys) => [keys.join(), keys]))
    for (const [id, ring] of open)
      if (!now.has(id)) {
        close(ring)
        open.delete(id)
      }
    for (const [id, keys] of now) {
      const ring = open.get(id)
      if (ring) ring.toS = t
      else open.set(id, { fromS: t, toS: t, keys })
    }
  }
  for (const ring of open.values()) close(ring)
  return found.sort((a, b) => a.fromS - b.fromS)
}
