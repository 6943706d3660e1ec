import { toMillimetre, type Point2 } from '@tidytrail/core/geometry'
import Papa from 'papaparse'
import { LIMITS } from '@tidytrail/core/level'
import { metresPerRadian } from '../degrees'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'

/** What a column of a list of places may hold. */
export const FIELDS = ['x', 'y', 'z', 'name', 'pause', 'route'] as const
export type Field = (typeof FIELDS)[number]

/** A list of places as it was pasted, taken apart into cells, with what its columns seem to be. */
export interface CoordinateTable {
  readonly rows: readonly (readonly string[])[]
  /** Line of the text each row stood in, from 1. */
  readonly lines: readonly number[]
  /** Words over the columns, when the first row holds words. */
  readonly head: readonly string[] | undefined
  readonly delimiter: ',' | ';' | '\t' | ' '
  /** Are commas the points of its numbers? */
  readonly commas: boolean
  /** Do the words over x and y say longitude and latitude? */
  readonly degrees: boolean
  /** The column of each field that was recognised. */
  readonly columns: Readonly<Partial<Record<Field, number>>>
}

/** One place of a list; the words of a name or route as they stood there. */
export interface CoordinateRow {
  readonly at: readonly [x: number, y: number, z: number | undefined]
  readonly name: string
  readonly route: string
  readonly pauseS: number
}

/** More rows than this are refused: a route of so many stops is a mistake. */
export const MOST_ROWS = 50_000

const WORDS: Record<Field, RegExp> = {
  x: /^(x|east(ing)?|e|pos_?x|lon|lng|long|longitude)$/i,
  y: /^(y|north(ing)?|n|pos_?y|lat|latitude)$/i,
  z: /^(z|height|ele|elev|elevation|up|alt|altitude|pos_?z)$/i,
  name: /^(name|label|title|waypoint|stop)$/i,
  pause: /^(pause|wait|stop_?time)$/i,
  route: /^(route|line|path|group|lane)$/i,
}

/** A unit behind a word over a column, such as in "x (m)", "height_m" or "longitude [deg]". */
const UNIT = /[ _]*[([]?(?<=[ _([])(m|metres?|s|seconds?|deg|degrees|°)[)\]]?$/i
const DEGREES = /^(lon|lng|long|longitude|lat|latitude)$/i

const bare = (word: string) => word.trim().replace(UNIT, '')

const NUMBER_POINT = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i
const NUMBER_COMMA = /^[+-]?(\d+,?\d*|,\d+)(e[+-]?\d+)?$/i

/**
 * Takes a pasted list of places apart: cells between commas, semicolons, tabs or blanks; decimal points or commas; with
 * or without words over the columns. Lines that are empty or begin with # are passed over.
 * @throws FormatError when there is nothing in it, or too much
 */
export function readCoordinates(text: string): CoordinateTable {
  if (text.length > FORMAT_LIMITS.listLetters)
    throw new FormatError('', `the list is longer than ${FORMAT_LIMITS.listLetters.toLocaleString('en')} letters`)
  let count = 0
  const taken: { line: number; text: string }[] = []
  text.split(/\r\n|\n|\r/).forEach((line, i) => {
    if (line.trim() === '' || line.trim().startsWith('#')) return
    count++
    if (count <= MOST_ROWS + 1) taken.push({ line: i + 1, text: line })
  })
  if (count === 0) throw new FormatError('', 'there are no places in it')
  if (count > MOST_ROWS + 1)
    throw new FormatError(
      '',
      `it has ${count.toLocaleString('en')} rows; at most ${MOST_ROWS.toLocaleString('en')} are taken`,
    )
  const delimiter = delimiterOf(taken.slice(0, 20).map((t) => t.text))
  const cells = taken.map((t) => splitCells(t.text, delimiter))
  const isNumber = (cell: string) => NUMBER_POINT.test(cell) || NUMBER_COMMA.test(cell)
  // Words over the columns: a first row in which nothing is a number, or whose words are known.
  const recognised = columnsOf(cells[0])
  const head = recognised.x !== undefined || !cells[0].some(isNumber) ? cells[0] : undefined
  const rows = head ? cells.slice(1) : cells
  if (rows.length === 0) throw new FormatError('', 'there are no places in it, only words over the columns')
  const commas =
    delimiter !== ',' && rows.slice(0, 50).some((r) => r.some((c) => !NUMBER_POINT.test(c) && NUMBER_COMMA.test(c)))
  const columns = head && recognised.x !== undefined ? recognised : guessed(rows, isNumber)
  const degrees =
    head !== undefined && [columns.x, columns.y].every((k) => k !== undefined && DEGREES.test(bare(head[k] ?? '')))
  return { degrees, rows, lines: taken.slice(head ? 1 : 0).map((t) => t.line), head, delimiter, commas, columns }
}

function delimiterOf(lines: readonly string[]): CoordinateTable['delimiter'] {
  if (lines.some((l) => l.includes('\t'))) return '\t'
  if (lines.some((l) => l.includes(';'))) return ';'
  // "12,5 40,25": commas within numbers and blanks between them.
  if (lines.every((l) => /^\s*[+-]?\d+,\d+\s+[+-]?\d+,\d+(\s|$)/.test(l))) return ' '
  if (lines.some((l) => l.includes(','))) return ','
  return ' '
}

function splitCells(line: string, delimiter: CoordinateTable['delimiter']): string[] {
  if (delimiter === ' ') return line.trim().split(/\s+/)
  const { data } = Papa.parse<string[]>(line.trim(), { delimiter, header: false })
  // A delimiter at the end of a line makes no cell.
  const cells = (data[0] ?? []).map((c) => c.trim())
  while (cells.length > 0 && cells[cells.length - 1] === '') cells.pop()
  return cells
}

function columnsOf(head: readonly string[]): Partial<Record<Field, number>> {
  const columns: Partial<Record<Field, number>> = {}
  for (const field of FIELDS) {
    const at = head.findIndex((word) => WORDS[field].test(bare(word)))
    if (at >= 0) columns[field] = at
  }
  return columns.x !== undefined && columns.y !== undefined ? columns : {}
}

/** Without known words: the first columns of numbers are x, y and z, and the first column of words is the name. */
function guessed(rows: readonly (readonly string[])[], isNumber: (cell: string) => boolean) {
  const width = Math.max(...rows.slice(0, 50).map((r) => r.length))
  const columns: Partial<Record<Field, number>> = {}
  const numeric: Field[] = ['x', 'y', 'z', 'pause']
  for (let k = 0; k < width; k++) {
    const cells = rows.slice(0, 50).map((r) => r[k] ?? '')
    if (cells.filter((c) => isNumber(c)).length * 2 > cells.length) {
      const field = numeric.shift()
      if (field) columns[field] = k
    } else columns.name ??= k
  }
  return columns
}

/**
 * The places of a table, read by the columns chosen.
 * @param middle where the middle of places in degrees is laid, metres; they are laid flat about it (WGS 84)
 * @param skipFaulty leave rows out that cannot be read, instead of refusing the list
 * @returns the places, and what was wrong with rows that were left out
 * @throws FormatError naming line and column of the first cell that is not what it should be
 */
export function placesOf(
  table: CoordinateTable,
  columns: CoordinateTable['columns'] = table.columns,
  skipFaulty = false,
  middle: Point2 = [0, 0],
): { rows: CoordinateRow[]; faults: string[] } {
  if (columns.x === undefined || columns.y === undefined)
    throw new FormatError('', 'choose the columns that hold x (east) and y (north)')
  const rows: CoordinateRow[] = []
  const faults: string[] = []
  table.rows.forEach((cells, i) => {
    try {
      rows.push(placeOf(table, columns, cells))
    } catch (e) {
      const fault = new FormatError(`line ${table.lines[i]}`, (e as Error).message)
      if (!skipFaulty) throw fault
      faults.push(fault.message)
    }
  })
  return { rows: table.degrees ? laidFlat(rows, middle) : rows, faults }
}

function laidFlat(rows: readonly CoordinateRow[], [x0, y0]: Point2): CoordinateRow[] {
  const span = (k: 0 | 1) => {
    const of = rows.map((r) => r.at[k])
    return of.reduce((a, b) => Math.min(a, b), Infinity) / 2 + of.reduce((a, b) => Math.max(a, b), -Infinity) / 2
  }
  const [lon, lat] = [span(0), span(1)]
  const { east, north } = metresPerRadian(lat)
  const metres = (base: number, per: number, degrees: number) => toMillimetre(base + (per * degrees * Math.PI) / 180)
  return rows.map((row) => ({
    ...row,
    at: [metres(x0, east, row.at[0] - lon), metres(y0, north, row.at[1] - lat), row.at[2]],
  }))
}

function placeOf(table: CoordinateTable, columns: CoordinateTable['columns'], cells: readonly string[]): CoordinateRow {
  const number = (field: Field): number | undefined => {
    const k = columns[field]
    if (k === undefined) return undefined
    const cell = cells[k] ?? ''
    if (cell === '' && field !== 'x' && field !== 'y') return undefined
    const shape = table.commas ? NUMBER_COMMA : NUMBER_POINT
    if (cell === '') throw new Error(`there is no ${field}; the row has ${cells.length} of ${k + 1} columns`)
    if (!shape.test(cell)) throw new Error(`${field} should be a number but is “${cell.slice(0, 40)}”`)
    const value = Number(table.commas ? cell.replace(',', '.') : cell)
    if (table.degrees && ((field === 'x' && Math.abs(value) > 180) || (field === 'y' && Math.abs(value) > 90)))
      throw new Error(`${cell} is no ${field === 'x' ? 'longitude' : 'latitude'}`)
    if (!Number.isFinite(value) || Math.abs(value) > LIMITS.coordinateM)
      throw new Error(`${field} is ${cell}, beyond ${LIMITS.coordinateM} m`)
    return value
  }
  const word = (field: Field) =>
    (columns[field] === undefined ? '' : (cells[columns[field]] ?? '')).slice(0, LIMITS.nameLength)
  const pauseS = number('pause') ?? 0
  if (pauseS < 0) throw new Error(`a pause cannot last ${pauseS} s`)
  return { at: [number('x')!, number('y')!, number('z')], name: word('name'), route: word('route'), pauseS }
}
