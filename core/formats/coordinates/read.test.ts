import { describe, expect, it } from 'vitest'
import { MOST_ROWS, placesOf, readCoordinates } from './read'

const read = (text: string) => placesOf(readCoordinates(text)).rows.map((r) => r.at)

describe('a pasted list of places', () => {
  it.each([
    [
      'commas',
      '1,2\n3.5,-4',
      [
        [1, 2, undefined],
        [3.5, -4, undefined],
      ],
    ],
    [
      'blanks',
      '1 2 3\n 4   5 6 ',
      [
        [1, 2, 3],
        [4, 5, 6],
      ],
    ],
    [
      'tabs',
      '1\t2\n3\t4',
      [
        [1, 2, undefined],
        [3, 4, undefined],
      ],
    ],
    [
      'semicolons and decimal commas',
      '1,5;2,25\n-3;4',
      [
        [1.5, 2.25, undefined],
        [-3, 4, undefined],
      ],
    ],
    [
      'decimal commas between blanks',
      '1,5 2,25\n3,0 4,5',
      [
        [1.5, 2.25, undefined],
        [3, 4.5, undefined],
      ],
    ],
    [
      'empty lines and remarks',
      '# centre line\n\n1,2\r\n\r\n3,4\n',
      [
        [1, 2, undefined],
        [3, 4, undefined],
      ],
    ],
    ['exponents and signs', '+1e2,-.5', [[100, -0.5, undefined]]],
  ])('is read with %s', (_what, text, places) => expect(read(text)).toEqual(places))

  it('finds its columns by the words over them, in any order', () => {
    const table = readCoordinates('Name;North;East;Pause;Height\nGate;2;1;4,5;0,5\n"Quay; east";3;2;;')
    expect(table).toMatchObject({ columns: { name: 0, y: 1, x: 2, pause: 3, z: 4 }, commas: true, delimiter: ';' })
    expect(placesOf(table).rows).toEqual([
      { at: [1, 2, 0.5], name: 'Gate', route: '', pauseS: 4.5 },
      { at: [2, 3, undefined], name: 'Quay; east', route: '', pauseS: 0 },
    ])
  })

  it('knows latitude before longitude by their words, and lays degrees flat about the middle of the sheet', () => {
    const table = readCoordinates('id,Latitude,Longitude,ele_m\na,47.37,8.54,410\nb,47.38,8.55,412')
    expect(table).toMatchObject({ degrees: true, columns: { x: 2, y: 1, z: 3 } })
    const [a, b] = placesOf(table, undefined, false, [100, 50]).rows.map((r) => r.at)
    // A degree of longitude and of latitude at 47.375°, from the tables of the ellipsoid.
    expect(b[0] - a[0]).toBeCloseTo(754.8, 0)
    expect(b[1] - a[1]).toBeCloseTo(1111.8, 0)
    expect([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, a[2]]).toEqual([expect.closeTo(100, 2), expect.closeTo(50, 2), 410])
    expect(() => placesOf(readCoordinates('lat,lon\n91,2\n3,4'))).toThrow('line 2: 91 is no latitude')
  })

  it('knows words with their units', () => {
    expect(readCoordinates('Easting (m),Northing [m],height_m,pause s\n1,2,3,4').columns).toEqual({
      x: 0,
      y: 1,
      z: 2,
      pause: 3,
    })
  })

  it('takes columns without known words by what is in them, and lets one choose others', () => {
    const table = readCoordinates('Gate,1,2,9\nQuay,3,4,9')
    expect(table.columns).toEqual({ name: 0, x: 1, y: 2, z: 3 })
    expect(placesOf(table, { x: 2, y: 1 }).rows[0].at).toEqual([2, 1, undefined])
  })

  it.each([
    ['words for numbers', 'x,y\n1,2\n3,north', 'line 3: y should be a number but is “north”'],
    ['a missing column', '1,2\n3\n4,5', 'line 2: there is no y; the row has 1 of 2 columns'],
    ['nothing', ' \n\n# only a remark', 'there are no places in it'],
    ['only words', 'x,y', 'only words over the columns'],
    ['a place beyond the world', '1,2\n3,4e9', 'line 2: y is 4e9, beyond 100000 m'],
    ['a pause before it began', 'x,y,pause\n1,2,-3', 'line 2: a pause cannot last -3 s'],
    ['no numbers at all', 'to the quay\nand back again', 'choose the columns that hold x (east) and y (north)'],
  ])('with %s is refused with the place', (_what, text, message) => expect(() => read(text)).toThrow(message))

  it('can be taken without the rows that cannot be read, which are told', () => {
    const { rows, faults } = placesOf(readCoordinates('1,2\nx,3\n4,5'), undefined, true)
    expect([rows.length, faults]).toEqual([2, ['line 2: x should be a number but is “x”']])
  })

  it('of a million rows is refused by its count', () => {
    expect(() => readCoordinates('1,2\n'.repeat(1_000_000))).toThrow(
      `it has 1,000,000 rows; at most ${MOST_ROWS.toLocaleString('en')} are taken`,
    )
  })
})
