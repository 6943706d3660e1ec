import { magicOf } from './mesh'

/** Height samples as they were imported: south to north, each row west to east, metres. */
export interface HeightGrid {
  readonly columns: number
  readonly rows: number
  readonly z: Float32Array
}

const MAGIC = 0x31485454 // "TTH1"
const HEAD = 12

/** Heights as the bytes of an asset: "TTH1", columns, rows, then the samples, little-endian. */
export function packHeights(grid: HeightGrid): Uint8Array {
  const bytes = new Uint8Array(HEAD + grid.z.byteLength)
  const head = new DataView(bytes.buffer)
  head.setUint32(0, MAGIC, true)
  head.setUint32(4, grid.columns, true)
  head.setUint32(8, grid.rows, true)
  new Float32Array(bytes.buffer, HEAD).set(grid.z)
  return bytes
}

/** Does an asset hold heights? */
export const isHeightGrid = (bytes: Uint8Array) => magicOf(bytes) === MAGIC

/** @throws RangeError when the bytes are no heights, or not all of them */
export function unpackHeights(bytes: Uint8Array): HeightGrid {
  if (!isHeightGrid(bytes)) throw new RangeError('this asset holds no heights')
  const head = new DataView(bytes.buffer, bytes.byteOffset)
  const columns = head.getUint32(4, true)
  const rows = head.getUint32(8, true)
  if (columns < 2 || rows < 2 || bytes.byteLength !== HEAD + columns * rows * 4) {
    throw new RangeError(`these heights have ${bytes.byteLength} bytes where ${HEAD + columns * rows * 4} are expected`)
  }
  const z = new Float32Array(bytes.slice().buffer, HEAD)
  for (const v of z) if (!Number.isFinite(v)) throw new RangeError('a height is not a number')
  return { columns, rows, z }
}
