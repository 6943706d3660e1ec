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
