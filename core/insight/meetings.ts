import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { spansOf, type Span } from './spans'

/** Looks a second. */
const LOOKS_HZ = 2
/** Patrols meet that come as near as this, metres; and nobody is alone with one of its own within so many. */
export const MEET_M = 4
export const ALONE_M = 20

export interface Meeting {
  readonly keys: readonly [number, number]
  readonly span: Span
}

export interface Company {
  readonly meetings: readonly Meeting[]
  /** When each of those looked at has none of the others near. */
  readonly alone: readonly { readonly key: number; readonly spans: readonly Span[]; readonly share: number }[]
}

/** Who meets whom, and who is alone when, among some of a recording. */
export function company(recorded: Recorded, keys: ReadonlySet<number>, meetM = MEET_M, aloneM = ALONE_M): Company {
  const every = Math.round(FRAMES_PER_SECOND / LOOKS_HZ)
  const everyS = every / FRAMES_PER_SECOND
  const looks = Math.ceil(recorded.frameCount / every)
  const met = new Map<string, Uint8Array>()
  const alone = new Map<number, Uint8Array>()
  const there = new Map<number, number>()
  for (let look = 0; look < looks; look++) {
    const frame = recorded.frame(look * every)
    const rows: number[] = []
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) if (keys.has(frame[r])) rows.push(r)
    const near = new Set<number>()
    for (let a = 0; a < rows.length; a++) {
      const p = rows[a]
      there.set(frame[p], (there.get(frame[p]) ?? 0) + 1)
      for (let b = a + 1; b < rows.length; b++) {
        const q = rows[b]
        const d2 =
          (frame[p + FIELD.x] - frame[q + FIELD.x]) ** 2 +
          (frame[p + FIELD.y] - frame[q + FIELD.y]) ** 2 +
          (frame[p + FIELD.z] - frame[q + FIELD.z]) ** 2
        if (d2 <= (aloneM * 1000) ** 2) near.add(p).add(q)
        if (d2 > (meetM * 1000) ** 2) continue
        const pair = [frame[p], frame[q]].sort((x, y) => x - y).join(' ')
        let flags = met.get(pair)
        if (!flags) met.set(pair, (flags = new Uint8Array(looks)))
        flags[look] = 1
      }
    }
    for (const r of rows) {
      let flags = alone.get(frame[r])
      if (!flags) alone.set(frame[r], (flags = new Uint8Array(looks)))
      if (!near.has(r)) flags[look] = 1
    }
  }
  return {
    meetings: [...met]
      .flatMap(([pair, flags]) => {
        const [a, b] = pair.split(' ').map(Number)
        return spansOf(flags, 1, everyS).map((span): Meeting => ({ keys: [a, b], span }))
      })
      .sort((a, b) => a.span.from - b.span.from),
    alone: [...alone].map(([key, flags]) => ({
      key,
      spans: spansOf(flags, 1, everyS),
      share: flags.reduce((n, f) => n + f, 0) / (there.get(key) ?? 1),
    })),
  }
}
