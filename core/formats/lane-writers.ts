import type { Level } from '@tidytrail/core/level'
import { writeLanesGeoJson } from './geojson/write-lanes'
import { writeOpenDrive } from './opendrive/write'

/** A format the lanes of a level can be written in. */
export interface LaneWriter {
  readonly id: string
  readonly word: string
  readonly ending: string
  readonly type: string
  /** @returns the file, and what of the level is not in it */
  write(level: Level): { readonly text: string; readonly left: readonly string[] }
}

/** Every format lanes can be written in. */
export const LANE_WRITERS: readonly LaneWriter[] = [
  { id: 'opendrive', word: 'ASAM OpenDRIVE', ending: 'xodr', type: 'application/xml', write: writeOpenDrive },
  { id: 'geojson', word: 'GeoJSON', ending: 'geojson', type: 'application/geo+json', write: writeLanesGeoJson },
]
