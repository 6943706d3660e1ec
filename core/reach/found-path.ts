import type { Point3 } from '@tidytrail/core/geometry'
import type { UsablePassage } from './passages'

export interface FoundPath {
  readonly found: true
  /** Corner by corner, both ends included, metres. */
  readonly line: readonly Point3[]
  /** Over the map, metres. */
  readonly lengthM: number
  /** The passages it leads through, in order. */
  readonly uses: readonly PassageUse[]
}

/** A passage on a path: from one corner of the line to the next. */
export interface PassageUse {
  readonly passageId: string
  readonly kind: UsablePassage['kind']
  /** Corner of the line it begins at; it ends at the one after. */
  readonly at: number
  readonly takesS: number
}

export type PathRefusal = 'start-off-reach' | 'end-off-reach' | 'apart'

export interface NoPath {
  readonly found: false
  readonly why: PathRefusal
  /** How far a straight walk gets, when it can start at all. */
  readonly stopsAt: Point3 | null
}

export type PathAnswer = FoundPath | NoPath

/** Bends of a path: corners closer together than a body's own width round one thing are one. */
export function bendsOf(line: readonly Point3[], radiusM: number): number {
  let bends = 0
  for (let k = 1; k + 1 < line.length; k++) {
    const m = Math.sqrt((line[k][0] - line[k - 1][0]) ** 2 + (line[k][1] - line[k - 1][1]) ** 2)
    if (bends === 0 || m > radiusM) bends++
  }
  return bends
}
