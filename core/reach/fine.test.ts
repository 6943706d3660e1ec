import { describe, expect, it } from 'vitest'
import { packMesh, provideAsset, terrainOf, type MeshData } from '@tidytrail/core/ground'
import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import { box, chance, fakeHash, meshOfShapes, sceneLevel } from '@tidytrail/core/testing'
import { buildReach, PathFinder, reachSource, whyNotHere } from '.'

type Place = [number, number, number]

/** A closed mesh with a trapezium for its section, along a line from −16 to `to` of its own: a bank that leans inward. */
function bank(parts: readonly [number, number][], turnRad: number, x: number, y: number): MeshData {
  const positions: number[] = []
  const indices: number[] = []
  const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)]
  for (const [from, to] of parts) {
    const first = positions.length / 3
    // Foot 0.9 m to either side, top 0.2 m, 2 m high: 70.7° steep. Its ends lean as well.
    for (const [half, end, z] of [
      [0.9, 0, 0],
      [0.2, 0.7, 2],
    ]) {
      for (const [u, v] of [
        [from + end * Number(from > -16), -half],
        [to - end * Number(to < 16), -half],
        [to - end * Number(to < 16), half],
        [from + end * Number(from > -16), half],
      ])
        positions.push(x + c * u - s * v, y + s * u + c * v, z)
    }
    const quad = (a: number, b: number, d: number, e: number) =>
      indices.push(first + a, first + b, first + d, first + a, first + d, first + e)
    quad(3, 2, 1, 0)
    quad(4, 5, 6, 7)
    for (let k = 0; k < 4; k++) quad(k, (k + 1) % 4, 4 + ((k + 1) % 4), 4 + k)
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}

function level(mesh: MeshData, cellM: number, columnM: number | null, more: Partial<LevelInput> = {}): Level {
  const hash = fakeHash(mesh.positions.join())
  provideAsset(hash, packMesh(mesh))
  const extent = { minX: 0, minY: 0, maxX: 13, maxY: 13 }
  return levelSchema.parse({
    ...sceneLevel(
      13,
      13,
      {},
      {
        meshes: { ms_a: { name: 'Bank', assetId: hash, at: [0, 0, 0] } },
        reachAreas: {
          ra_a: {
            name: 'Gap',
            ring: [
              [2, 2],
              [11, 2],
              [11, 11],
              [2, 11],
            ],
            columnM,
          },
        },
        settings: { extent, cellM } as never,
        ...more,
      },
    ),
  })
}
const mapOf = (l: Level) => buildReach(reachSource(l, 'pf_warden'))

describe.each([0.25, 0.5])('a gap between leaning banks of a mesh, with columns of %f m', (cellM) => {
  const radiusM = 0.35

  const tell = (columnM: number | null, moreM: number) => {
    const next = chance(7)
    let right = 0
    let asked = 0
    for (let deg = 0; deg < 180; deg += 30) {
      const turnRad = (deg * Math.PI) / 180
      const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)]
      const [x, y] = [6 + next(), 6 + next()]
      const half = radiusM + moreM / 2
      const l = level(
        bank(
          [
            [-16, -half],
            [half, 16],
          ],
          turnRad,
          x,
          y,
        ),
        cellM,
        columnM,
      )
      l.profiles.pf_warden = { ...l.profiles.pf_warden, radiusM }
      const ends: [Place, Place] = [
        [x - s * 3, y + c * 3, 0],
        [x + s * 3, y - c * 3, 0],
      ]
      asked++
      if (new PathFinder(mapOf(l)).find(...ends).found === moreM > 0) right++
    }
    return `${right} of ${asked}`
  }

  it.each([-0.2, -0.06, 0.06, 0.2])(
    'is told right with fine columns of 4 cm when it is %f m wider than the body',
    (moreM) => {
      expect(tell(0.04, moreM)).toBe('6 of 6')
    },
  )

  it('is told wrong by the level’s own columns, which are too wide for it', () => {
    expect(tell(null, 0.06)).not.toBe('6 of 6')
  })
})

describe('a fine area', () => {
  const { solids } = terrainOf(sceneLevel(13, 13, { sd_a: box(4, 4, 8, 8, 1) }))
  const ledge = meshOfShapes(solids)
  /** A block of a mesh one stands on and may not step down from: its top ends where it ends. */
  const onLedge = (columnM: number | null) =>
    level(ledge, 0.5, columnM, {
      meshes: { ms_a: { name: 'Ledge', assetId: fakeHash(ledge.positions.join()), at: [0.13, 0.07, 0] } },
    })
  const onLedgeIn = (
    extent: Level['settings']['extent'],
    area: { name: string; ring: [number, number][]; columnM: number | null },
  ) => levelSchema.parse({ ...onLedge(null), reachAreas: { ra_a: area }, settings: { extent, cellM: 0.5 } })

  it('says how far the edge of a mesh’s top is, to its fine columns, and keeps paths off it', () => {
    const map = mapOf(onLedge(0.04))
    // The top ends at x = 8.13.
    expect(whyNotHere(map, [7.95, 6, 1])).toMatch(
      /^too close to Ledge \(0\.1[6-9]|0\.2[01] m of 0\.35 m, within 0\.04 m\)$/,
    )
    expect(whyNotHere(map, [7.72, 6, 1])).toBeUndefined()
    const path = new PathFinder(map).find([7.6, 4.6, 1], [7.6, 7.5, 1])
    expect(path.found).toBe(true)
    for (const [x] of path.found ? path.line : []) expect(x).toBeLessThan(8.13 - 0.35 + 0.03)
  })

  it('ends as sharply where ground grows steep, which columns tell alone', () => {
    // Level up to x = 6.1, then up by 2 in 1.
    const row = Array.from({ length: 131 }, (_, i) => Math.max(0, i * 0.1 - 6.1) * 2)
    const heights = { originX: 0, originY: 0, spacingM: 0.1, rows: row.map(() => row), assetId: null }
    const ground = (columnM: number | null) =>
      level(ledge, 0.5, columnM, { meshes: {}, ground: { baseM: 0, heights } as never })
    const free = (map: ReturnType<typeof mapOf>) => {
      let x = 7
      while (x > 3 && whyNotHere(map, [x, 6, 0]) !== undefined) x -= 0.005
      return x
    }
    expect(Math.abs(free(mapOf(ground(0.04))) - (6.1 - 0.35))).toBeLessThan(0.05)
    expect(Math.abs(free(mapOf(ground(null))) - (6.1 - 0.35))).toBeGreaterThan(0.05)
  })

  it('that is drawn, changed or taken away leaves the map as one built anew, and rebuilds what it touches only', () => {
    const wide = { minX: 0, minY: 0, maxX: 200, maxY: 40 }
    const base = onLedgeIn(wide, {
      name: 'Edge',
      ring: [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
      columnM: null,
    })
    const of = (columnM: number | null, ring: [number, number][]) => ({
      ...base,
      reachAreas: { ra_a: { ...base.reachAreas.ra_a, ring, columnM } },
    })
    const near: [number, number][] = [
      [3, 3],
      [9, 3],
      [9, 9],
      [3, 9],
    ]
    const states = [
      of(null, near),
      of(0.1, near),
      of(
        0.1,
        near.map(([x, y]) => [x + 1, y]),
      ),
      of(0.05, near),
      of(null, near),
    ]
    const map = mapOf(states[0])
    for (const state of states.slice(1)) {
      const work = map.planFor(reachSource(state, 'pf_warden'))!
      expect(work.tiles.length).toBeLessThan(map.tilesX * map.tilesY)
      expect(work.tiles.length).toBeGreaterThan(0)
      map.carryOut(work)
      const anew = mapOf(state)
      expect(map.tiles.map((t) => t.held.bars.line)).toEqual(anew.tiles.map((t) => t.held.bars.line))
      expect(map.tiles.map((t) => t.reach)).toEqual(anew.tiles.map((t) => t.reach))
    }
  })

  it('is told with wider columns when it is too large for fine ones', () => {
    const large: [number, number][] = [
      [0, 0],
      [900, 0],
      [900, 900],
      [0, 900],
    ]
    const source = (columnM: number) =>
      reachSource(
        onLedgeIn({ minX: 0, minY: 0, maxX: 900, maxY: 900 }, { name: 'All', ring: large, columnM }),
        'pf_warden',
      )
    // Eight million columns: 0.32 m would be the finest over 900 m, and a column of 0.5 m parts into an odd number.
    expect(source(0.02).fine).toEqual({ split: 1, areas: [] })
    const small: [number, number][] = [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ]
    const of = (columnM: number) =>
      reachSource(
        onLedgeIn({ minX: 0, minY: 0, maxX: 900, maxY: 900 }, { name: 'Part', ring: small, columnM }),
        'pf_warden',
      ).fine.split
    expect([of(0.02), of(0.05), of(0.1), of(0.4)]).toEqual([13, 11, 5, 3])
  })
})
