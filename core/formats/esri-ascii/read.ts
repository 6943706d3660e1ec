import { FormatError } from '../error'
import { fillHoles, type HeightsRead } from '../heights'
import { FORMAT_LIMITS } from '../limits'

const KEYS = ['ncols', 'nrows', 'xllcorner', 'xllcenter', 'yllcorner', 'yllcenter', 'cellsize', 'nodata_value']

/**
 * Heights from an Esri ASCII grid: a head of keys and values, then the rows from north to south.
 * @throws FormatError naming the line
 */
export function readEsriAscii(text: string): HeightsRead {
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
    if (!/^[a-z]/i.test(words)) {
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
  const { ncols, nrows, cellsize } = head
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
        const v = Number(word)
        if (!Number.isFinite(v)) throw new FormatError(`line ${line}`, `“${word.slice(0, 20)}” is not a number`)
        const column = k % ncols
        const row = nrows - 1 - (k - column) / ncols
        const hole = v === noData
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
  const repairs = fillHoles({ columns: ncols, rows: nrows, z })
  const half = head.xllcenter === undefined ? cellsize / 2 : 0
  return {
    grid: { columns: ncols, rows: nrows, z },
    spacingM: cellsize,
    origin: [(head.xllcenter ?? head.xllcorner ?? 0) + half, (head.yllcenter ?? head.yllcorner ?? 0) + half],
    repairs,
  }
}
