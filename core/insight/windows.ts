import type { WatchSpot } from '@tidytrail/core/level'
import { FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { Lookers, looksOf } from './lookers'
import { spanFigures, spansOf, type Span, type SpanFigures } from './spans'

/** When a spot is watched by nobody. Seconds; a frame is taken to stand for the tenth of a second that follows it. */
export interface SpotWindows {
  readonly open: readonly Span[]
  /** Who watches it when: agents by their keys. */
  readonly watched: readonly { readonly key: number; readonly spans: readonly Span[] }[]
  readonly figures: SpanFigures
  /** Seconds looked at. */
  readonly ofS: number
  /** Is there anybody whose eyes count? */
  readonly lookers: number
}

/** The windows of a watch spot in a recording. */
export function spotWindows(recorded: Recorded, spot: Pick<WatchSpot, 'at' | 'heightM' | 'factionIds'>): SpotWindows {
  const lookers = new Lookers(recorded, spot.factionIds)
  const { frameCount } = recorded
  const everyS = 1 / FRAMES_PER_SECOND
  const any = new Uint8Array(frameCount)
  const by = new Map<number, Uint8Array>()
  const [x, y, z] = spot.at
  const looks = looksOf(lookers, { from: 0, to: frameCount, every: 1 }, (look) => look.sees(x, y, z, spot.heightM))
  for (const { k, key, found } of looks) {
    if (!found) continue
    any[k] = 1
    let own = by.get(key)
    if (!own) by.set(key, (own = new Uint8Array(frameCount)))
    own[k] = 1
  }
  const open = spansOf(any, 0, everyS)
  const ofS = frameCount * everyS
  return {
    open,
    watched: [...by].map(([key, flags]) => ({ key, spans: spansOf(flags, 1, everyS) })),
    figures: spanFigures(open, ofS),
    ofS,
    lookers: lookers.count,
  }
}
