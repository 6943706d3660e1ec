import type { Level } from '@tidytrail/core/level'
import { Heat } from '@tidytrail/core/rehearsal'
import type { HeatMap } from './rehearsal.protocol'

/** So many frames are added before messages are let in. */
const FRAMES_AT_A_TIME = 200

/**
 * Where everybody went in the first frames of a recording.
 * @param wanted is it still? @returns undefined once it is not
 */
export async function heatMap(
  { settings: { extent } }: Level,
  frame: (k: number) => Int32Array,
  count: number,
  breathe: () => Promise<void>,
  wanted: () => boolean,
): Promise<HeatMap | undefined> {
  const heat = new Heat(extent)
  for (let k = 0; k < count; k++) {
    heat.add(frame(k))
    if (k % FRAMES_AT_A_TIME === FRAMES_AT_A_TIME - 1) await breathe()
    if (!wanted()) return undefined
  }
  const { squareM, columns, rows } = heat
  const seconds = heat.seconds as Float32Array<ArrayBuffer>
  return { minX: extent.minX, minY: extent.minY, squareM, columns, rows, seconds }
}
