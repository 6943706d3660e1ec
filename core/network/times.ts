import { distance2, mix3 } from '@tidytrail/core/geometry'
import { speedFactorAt } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { travelTimeS, type FoundPath } from '@tidytrail/core/reach'

/** Covers are looked at about every so many metres of a way. */
const EVERY_M = 1

/** Seconds a way takes at a speed on bare ground, slower or faster where covers say so, its passages in their time. */
export function timeOverCovers(path: FoundPath, covers: Level['covers'], speedMps: number): number {
  let seconds = travelTimeS(path, speedMps)
  if (Object.keys(covers).length === 0) return seconds
  for (let i = 1; i < path.line.length; i++) {
    if (path.uses.some((u) => u.at === i - 1)) continue
    const length = distance2(path.line[i - 1], path.line[i])
    const pieces = Math.max(1, Math.round(length / EVERY_M))
    for (let k = 0; k < pieces; k++) {
      const [x, y] = mix3(path.line[i - 1], path.line[i], (k + 0.5) / pieces)
      const factor = speedFactorAt(covers, x, y)
      if (factor !== 1) seconds += (length / pieces / speedMps) * (1 / factor - 1)
    }
  }
  return seconds
}
