/** A stretch of time, seconds; `to` is when it is over. */
export interface Span {
  readonly from: number
  readonly to: number
}

/** The stretches in which flags, one every so many seconds, have a value. */
export function spansOf(flags: ArrayLike<number>, value: number, everyS: number): Span[] {
  const spans: Span[] = []
  let since = -1
  for (let k = 0; k <= flags.length; k++) {
    const on = k < flags.length && (flags[k] !== 0 ? 1 : 0) === value
    if (on && since < 0) since = k
    if (!on && since >= 0) {
      spans.push({ from: since * everyS, to: k * everyS })
      since = -1
    }
  }
  return spans
}

/** What can be said of stretches within a time: how many, how long, and what share of it they are. Seconds. */
export interface SpanFigures {
  readonly count: number
  readonly share: number
  readonly shortestS: number
  readonly longestS: number
  readonly meanS: number
}

export function spanFigures(spans: readonly Span[], ofS: number): SpanFigures {
  const lengths = spans.map((s) => s.to - s.from)
  const sum = lengths.reduce((a, b) => a + b, 0)
  return {
    count: spans.length,
    share: ofS > 0 ? sum / ofS : 0,
    shortestS: lengths.length > 0 ? Math.min(...lengths) : 0,
    longestS: Math.max(0, ...lengths),
    meanS: lengths.length > 0 ? sum / lengths.length : 0,
  }
}

/** The longest somebody waits, who may come at any time, and when that wait begins. Seconds. */
export interface Wait {
  readonly s: number
  readonly from: number
}

/**
 * How long one waits at most, from a time on, until a stretch begins of which so much is left. What is still to come when
 * the recording ends is not known, so a wait it cuts off is as long as it was seen to be.
 */
export function longestWait(spans: readonly Span[], lengthS: number, fromS: number, endS: number): Wait {
  let worst: Wait = { s: 0, from: fromS }
  let since = fromS
  const until = (at: number) => {
    if (at - since > worst.s) worst = { s: at - since, from: since }
  }
  for (const span of spans) {
    if (span.to - span.from < lengthS - 1e-9) continue
    const last = span.to - lengthS
    if (last < since) continue
    until(Math.max(since, span.from))
    since = last
  }
  until(Math.max(since, endS - lengthS))
  return worst
}
