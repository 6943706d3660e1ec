import type { StringLine } from '@tidytrail/core/insight'
import type { Corridor, LaneNet } from '@tidytrail/core/traffic'

/** One who drove along a corridor: time, seconds, and distance along the corridor, metres. */
export interface WaveThread {
  readonly key: number
  readonly places: readonly (readonly [t: number, m: number])[]
}

/** The lanes of a corridor from that which comes to its first signal to that which comes to its last. */
export const lanesBetween = ({ laneIds, beginsM, signals }: Corridor): string[] =>
  laneIds.filter(
    (_, k) => beginsM[k] < signals[signals.length - 1].atM && (beginsM[k + 1] ?? Infinity) >= signals[0].atM,
  )

/** Who drove along the lanes of a corridor between two times, lane by lane, from the string-lines of these. */
export function waveThreads(
  corridor: Corridor,
  net: LaneNet,
  strings: readonly StringLine[],
  fromS: number,
  toS: number,
): WaveThread[] {
  return corridor.laneIds.flatMap((id, k) => {
    const line = strings.find((s) => s.routeId === id)
    const lane = net.lanes.get(id)
    if (!line || !lane || !(line.lengthM > 0)) return []
    // A string-line is straight from stop to stop; the lane may bend.
    const stretch = lane.line.lengthM / line.lengthM
    return line.threads.flatMap(({ key, t, m }) => {
      const places = t.flatMap((s, q) => (s >= fromS && s <= toS ? [[s, corridor.beginsM[k] + m[q] * stretch] as const] : [])) // prettier-ignore
      return places.length > 1 ? [{ key, places }] : []
    })
  })
}

/** A distance along the way back as one along the way out, by the junctions both pass; beyond them metre for metre. */
export function onWayOut(back: Corridor, out: Corridor): (m: number) => number {
  const pairs = back.signals
    .flatMap(({ junctionId, atM }) => {
      const there = out.signals.find((s) => s.junctionId === junctionId)
      return there ? [[atM, there.atM] as const] : []
    })
    .sort((a, b) => a[0] - b[0])
  return (m) => {
    if (pairs.length === 0) return out.lengthM - m
    const [first, last] = [pairs[0], pairs[pairs.length - 1]]
    if (m <= first[0]) return first[1] + (first[0] - m)
    if (m >= last[0]) return last[1] - (m - last[0])
    const k = pairs.findIndex(([atM]) => atM > m)
    const [[a, u], [b, v]] = [pairs[k - 1], pairs[k]]
    return u + ((m - a) / (b - a)) * (v - u)
  }
}
