import { chance } from '@tidytrail/core/testing'
import { encode } from 'fast-png'
import { describe, expect, it } from 'vitest'
import { readEsriAscii, readHeightPng, readObj, textOf } from '.'

const RANGE = { lowM: 0, highM: 255 }
const grid = (head: string, rows: string) => `${head}\nNODATA_value -9999\n${rows}`

describe('an Esri grid in degrees', () => {
  /** Heights that rise by their longitude, a thousandth of a degree apart, at a latitude. */
  const at = (latitude: number, columns = 101, rows = 11) =>
    grid(
      `ncols ${columns}\nnrows ${rows}\nxllcorner 8.5\nyllcorner ${latitude - rows / 2000}\ncellsize 0.001`,
      Array.from({ length: rows }, () => Array.from({ length: columns }, (_, i) => i).join(' ')).join('\n'),
    )
  it.each([0, 47, -60])('becomes square cells of metres, right to a centimetre a kilometre, at %f°', (latitude) => {
    const read = readEsriAscii(at(latitude))
    expect(read.cells).toBe('degrees')
    // Length of a degree by the series of the ellipsoid (Snyder 1987), not by the radii the reader uses.
    const p = (latitude * Math.PI) / 180
    const north = 111_132.954 - 559.822 * Math.cos(2 * p) + 1.175 * Math.cos(4 * p)
    const east = 111_412.84 * Math.cos(p) - 93.5 * Math.cos(3 * p) + 0.118 * Math.cos(5 * p)
    expect(read.spacingM! * 1000).toBeCloseTo(north, -1)
    const wide = (read.grid.columns - 1) * read.spacingM!
    expect(Math.abs(wide - east * 0.1)).toBeLessThan(read.spacingM! / 2 + 1)
    expect(read.grid.z[0]).toBe(0)
    expect(read.grid.z[read.grid.columns - 1]).toBe(100)
    expect(read.repairs.join()).toContain('its cells are in degrees')
  })

  it('is in metres where it is said to be, and where its cells are as wide as metres are', () => {
    expect(readEsriAscii(at(47), { cells: 'metres' })).toMatchObject({ cells: 'metres', spacingM: 0.001 })
    const metres = grid('ncols 3\nnrows 2\nxllcorner 10\nyllcorner 20\ncellsize 1', '1 2 3\n4 5 6')
    expect(readEsriAscii(metres)).toMatchObject({ cells: 'metres', spacingM: 1, origin: [10.5, 20.5] })
    expect(readEsriAscii(metres, { cells: 'degrees' }).spacingM).toBeGreaterThan(110_000)
  })

  it('takes cells that are not square as they are', () => {
    const read = readEsriAscii(grid('ncols 3\nnrows 2\nxllcenter 0\nyllcenter 0\ndx 4\ndy 2', '1 2 3\n4 5 6'))
    expect(read).toMatchObject({ spacingM: 2, grid: { columns: 5, rows: 2 } })
    expect([...read.grid.z]).toEqual([4, 4.5, 5, 5.5, 6, 1, 1.5, 2, 2.5, 3])
  })
})

describe('places without data', () => {
  const text = grid(
    'ncols 6\nnrows 5\nxllcorner 0\nyllcorner 0\ncellsize 10',
    [
      '-9999 '.repeat(6),
      '-9999 1 1 1 1 -9999',
      '-9999 1 nan -9999 1 -9999',
      '-9999 1 1 1 1 -9999',
      '-9999 '.repeat(6),
    ].join('\n'),
  )
  it('are filled in, however many there are, and it is said when they are many', () => {
    const { grid: made, repairs } = readEsriAscii(text)
    expect(new Set(made.z)).toEqual(new Set([1]))
    expect(repairs).toEqual([
      '20 samples without data filled in from around them',
      '67 % of it had no data: look whether it should rather be cut off',
    ])
  })
  it('are cut off at the edges where that is chosen, and the place of what is left is right', () => {
    const read = readEsriAscii(text, { holes: 'cut' })
    expect(read.grid).toMatchObject({ columns: 4, rows: 3 })
    expect(read.origin).toEqual([15, 15])
    expect(read.repairs[0]).toBe('2 columns and 2 rows without data cut off')
  })
  it('are kept where that is chosen, with their outlines', () => {
    const { holes, grid: made } = readEsriAscii(text, { holes: 'keep' })
    expect([...made.z].some(Number.isNaN)).toBe(false)
    // The hole in the middle is two samples wide and one deep; the others lie round the edge.
    const inner = holes!.filter((ring) => ring.every(([x, y]) => x > 1 && x < 4 && y > 1 && y < 3))
    expect(inner).toHaveLength(1)
    const [xs, ys] = [0, 1].map((k) => inner[0].map((p) => p[k]))
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([1.5, 3.5])
    expect([Math.min(...ys), Math.max(...ys)]).toEqual([1.5, 2.5])
  })
})

describe('heights in a picture', () => {
  const png = (data: Uint8Array | Uint16Array, channels: 1 | 2 | 3 | 4) =>
    encode({ width: 2, height: 2, data, channels, depth: data instanceof Uint16Array ? 16 : 8 })
  it('of 8 grey bits are read, with a word on their steps', () => {
    const { grid: made, repairs } = readHeightPng(png(Uint8Array.of(0, 255, 128, 64), 1), RANGE)
    expect([...made.z]).toEqual([128, 64, 0, 255])
    expect(repairs).toEqual(['8 bits a channel: heights come in steps of 1.00 m; 16 bits of grey would be smooth'])
  })
  it('of grey with alpha are grey, and what is seen through is passed over', () => {
    const { grid: made, repairs } = readHeightPng(png(Uint16Array.of(0, 9, 65535, 9, 257, 9, 514, 9), 2), RANGE)
    expect([...made.z]).toEqual([1, 2, 0, 255])
    expect(repairs).toEqual(['how far it can be seen through is passed over'])
  })
  it.each([
    ['red', [30, 60]],
    ['blue', [10, 20]],
    ['grey', [20, 40]],
  ] as const)('of colour are taken from its %s', (channel, [a, b]) => {
    const colours = Uint8Array.of(30, 20, 10, 60, 40, 20, 30, 20, 10, 60, 40, 20)
    const { grid: made, repairs } = readHeightPng(png(colours, 3), { ...RANGE, channel })
    expect([...made.z]).toEqual([a, b, a, b])
    expect(repairs.at(-1)).toContain(
      `heights are taken from ${channel === 'grey' ? 'the mean of its colours' : `its ${channel}`}`,
    )
  })
})

describe('text', () => {
  const words = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n'
  const utf16 = (big: boolean, mark: boolean) => {
    const letters = [...(mark ? `\ufeff${words}` : words)].map((l) => l.charCodeAt(0))
    return Uint8Array.from(letters.flatMap((c) => (big ? [c >> 8, c & 255] : [c & 255, c >> 8])))
  }
  it.each([
    ['UTF-8', new TextEncoder().encode(words)],
    ['UTF-16, small end first', utf16(false, true)],
    ['UTF-16, great end first', utf16(true, true)],
    ['UTF-16 without a mark', utf16(false, false)],
    ['UTF-16 without a mark, great end first', utf16(true, false)],
  ])('in %s is read', (_what, bytes) => {
    expect(readObj(textOf(bytes), { upAxis: 'z', scale: 1 }).mesh.indices).toHaveLength(3)
  })
  it('OBJ with a face of 10,009 corners is cut into triangles that cover it', () => {
    const n = 10_009
    const next = chance(3)
    const corners = Array.from({ length: n }, (_, k) => {
      const a = (2 * Math.PI * k) / n
      const r = 50 + next()
      return `v ${(r * Math.cos(a)).toFixed(6)} ${(r * Math.sin(a)).toFixed(6)} 0`
    })
    const { mesh } = readObj(`${corners.join('\n')}\nf ${corners.map((_, k) => k + 1).join(' ')}\n`, {
      upAxis: 'z',
      scale: 1,
    })
    const area = (list: ArrayLike<number>) => {
      let sum = 0
      for (let t = 0; t < list.length; t += 3) {
        const [a, b, c] = [list[t], list[t + 1], list[t + 2]].map((v) => [
          mesh.positions[v * 3],
          mesh.positions[v * 3 + 1],
        ])
        sum += ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2
      }
      return sum
    }
    let ring = 0
    for (let k = 0; k < n; k++) {
      const [a, b] = [k, (k + 1) % n].map((v) => [mesh.positions[v * 3], mesh.positions[v * 3 + 1]])
      ring += (a[0] * b[1] - b[0] * a[1]) / 2
    }
    expect(mesh.indices.length / 3).toBeLessThanOrEqual(n - 2)
    expect(area(mesh.indices)).toBeCloseTo(ring, 0)
  })
})

it('OBJ leaves out a face that comes back to a corner, and says so', () => {
  const { mesh, repairs } = readObj('v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nf 1 2 3 1 4\n', {
    upAxis: 'z',
    scale: 1,
  })
  expect(mesh.indices).toHaveLength(3)
  expect(repairs).toEqual(['1 × a face that comes back to a corner it has been at left out'])
})
