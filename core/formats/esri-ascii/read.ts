import { FormatError } from '../error'
import { metresPerRadian } from '../degrees'
import { otherColumns, wholeGrid, type HeightsOptions, type HeightsRead } from '../heights'
import { FORMAT_LIMITS } from '../limits'

const KEYS = [
  'ncols',
  'nrows',
  'xllcorner',
  'xllcenter',
  'yllcorner',
  'yllcenter',
  'cellsize',
  'dx',
  'dy',
  'nodata_value',
]

/**
 * Heights from an Esri ASCII grid: a head of keys and values, then the rows from north to south. Cells in degrees, and
 * cells that are not square, are sampled anew as square ones in metres (WGS 84 at the middle of the grid).
 * @throws FormatError naming the line
 */
export function readEsriAscii(text: string, options: Partial<HeightsOptions> = {}): HeightsRead {
  const head: Record<string, number> = {}
  let at = 0
  let line = 1
  const nextLine = () => {
    let end = text.indexOf('\n', at)
    if (end < 0) end = text.length
    const words = text.slice(at, end).trim()
    at = end + 1
    return words
  }
  while (at < text.length) {
    const before = at
    const words = nextLine()
    const [key, value] = words.split(/\s+/, 2)
    if (!/^[a-z]/i.test(words) || /^nan\b/i.test(words)) {
      at = before
      break
    }
    if (!KEYS.includes(key.toLowerCase()))
      throw new FormatError(`line ${line}`, `“${key.slice(0, 30)}” is no key of an Esri ASCII grid`)
    const number = Number(value)
    if (value === undefined || !Number.isFinite(number)) throw new FormatError(`line ${line}`, `${key} is not a number`)
    head[key.toLowerCase()] = number
    line++
  }
  const { ncols, nrows } = head
  const cellsize = head.cellsize ?? head.dy
  for (const [key, value] of Object.entries({ ncols, nrows })) {
    if (value === undefined) throw new FormatError('head', `${key} is missing`)
    if (!Number.isInteger(value) || value < 2 || value > FORMAT_LIMITS.heightSide)
      throw new FormatError('head', `${key} is ${value}; 2 to ${FORMAT_LIMITS.heightSide} are read`)
  }
  if (!(cellsize > 0))
    throw new FormatError('head', cellsize === undefined ? 'cellsize is missing' : `cellsize is ${cellsize}`)
  if (ncols * nrows > FORMAT_LIMITS.heightSamples)
    throw new FormatError(
      'head',
      `asks for ${(ncols * nrows).toLocaleString('en')} samples; at most ${FORMAT_LIMITS.heightSamples.toLocaleString('en')} are read`,
    )
  const z = new Float32Array(ncols * nrows)
  const noData = head.nodata_value
  let k = 0
  while (at < text.length) {
    const words = nextLine()
    if (words) {
      for (const [word] of words.matchAll(/\S+/g)) {
        if (k >= z.length)
          throw new FormatError(
            `line ${line}`,
            `has more than the ${z.length.toLocaleString('en')} samples of the head`,
          )
        const blank = /^[-+]?nan$/i.test(word)
        const v = blank ? NaN : Number(word)
        if (!blank && !Number.isFinite(v))
          throw new FormatError(`line ${line}`, `“${word.slice(0, 20)}” is not a number`)
        const column = k % ncols
        const row = nrows - 1 - (k - column) / ncols
        const hole = blank || v === noData
        if (!hole && Math.abs(v) > FORMAT_LIMITS.coordinateM)
          throw new FormatError(
            `line ${line}`,
            `the height ${word} is beyond 100 km; is it a no-data value the head does not name?`,
          )
        z[row * ncols + column] = hole ? NaN : v
        k++
      }
    }
    line++
  }
  if (k < z.length)
    throw new FormatError(
      `line ${line - 1}`,
      `the file ends after ${k.toLocaleString('en')} of ${z.length.toLocaleString('en')} samples`,
    )
  const dx = head.dx ?? cellsize
  const dy = head.dy ?? cellsize
  const west = (head.xllcenter ?? head.xllcorner ?? 0) + (head.xllcenter === undefined ? dx / 2 : 0)
  const south = (head.yllcenter ?? head.yllcorner ?? 0) + (head.yllcenter === undefined ? dy / 2 : 0)
  const cells =
    options.cells ?? (inDegrees(west, south, ncols * dx, nrows * dy, Math.max(dx, dy)) ? 'degrees' : 'metres')
  const whole = wholeGrid({ columns: ncols, rows: nrows, z }, options.holes)
  const repairs = [...whole.repairs]
  const { columns, rows } = whole.grid
  let [wideM, deepM] = [dx, dy]
  if (cells === 'degrees') {
    const middle = Math.max(-89, Math.min(89, south + ((nrows - 1) * dy) / 2))
    const { east, north } = metresPerRadian(middle)
    wideM = (east * dx * Math.PI) / 180
    deepM = (north * dy * Math.PI) / 180
    repairs.push(
      `its cells are in degrees: ${wideM.toFixed(2)} m from west to east and ${deepM.toFixed(2)} m from south to north here`,
    )
  }
  const square = Math.max(2, Math.round(((columns - 1) * wideM) / deepM) + 1)
  if (square > FORMAT_LIMITS.heightSide || square * rows > FORMAT_LIMITS.heightSamples)
    throw new FormatError(
      'head',
      `comes to ${square.toLocaleString('en')} columns as square cells; at most ${FORMAT_LIMITS.heightSide.toLocaleString('en')} are read`,
    )
  const grid = square === columns ? whole.grid : otherColumns(whole.grid, square)
  const stretched = (square - 1) / (columns - 1)
  return {
    grid,
    spacingM: deepM,
    origin: cells === 'metres' ? [west + whole.cutWest * dx, south + whole.cutSouth * dy] : undefined,
    cells,
    holes: whole.holes.map((ring) => ring.map(([x, y]) => [x * stretched, y])),
    repairs,
  }
}

/** Cells this wide or less, on the globe, are taken to be in degrees: as metres they would make a toy of a level. */
const MOST_DEGREES_A_CELL = 0.2

const inDegrees = (west: number, south: number, wide: number, deep: number, cell: number) =>
  cell <= MOST_DEGREES_A_CELL &&
  west >= -180.5 &&
  west + wide <= 360.5 &&
  south >= -90.5 &&
  south + deep <= 90.5 &&
  Math.max(wide, deep) < 60
