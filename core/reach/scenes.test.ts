import { describe, expect, it } from 'vitest'
import { packMesh, provideAsset, terrainOf, unpackMesh } from '@tidytrail/core/ground'
import type { Level, LevelInput } from '@tidytrail/core/level'
import { box, fakeHash, flood, meshOfShapes, sceneLevel } from '@tidytrail/core/testing'
import { buildReach, PathFinder, reachSource, whyNotHere, type ReachMap } from '.'

type Solids = NonNullable<LevelInput['solids']>

const reachOf = (level: Level) => buildReach(reachSource(level, 'pf_warden'))
const stands = (map: ReachMap, x: number, y: number, z: number) => {
  const spot = map.floorAt(x, y, z)
  return spot !== undefined && map.isFree(spot, x, y) && Math.abs(map.zOf(spot) - z) < 0.3
}
const walks = (map: ReachMap, from: [number, number, number], to: [number, number, number]) =>
  new PathFinder(map).find(from, to).found
const deck = { walkable: true }

const ramp = (
  x: number,
  y: number,
  sizeX: number,
  sizeY: number,
  from: number,
  to: number,
  turnRad = 0,
): Solids[string] => ({
  shape: 'ramp',
  name: 'Ramp',
  at: [x, y],
  sizeX,
  sizeY,
  turnRad,
  baseM: from,
  heightM: to - from,
  walkable: true,
})
const stairs = (x: number, y: number, sizeX: number, steps: number, from: number, to: number): Solids[string] => ({
  shape: 'stairs',
  name: 'Stairs',
  at: [x, y],
  sizeX,
  sizeY: 3,
  steps,
  baseM: from,
  heightM: to - from,
  walkable: true,
})

/** The same level with its solids as one imported mesh instead. */
function asMesh(level: Level): Level {
  const shapes = terrainOf(level).solids
  const hash = fakeHash(JSON.stringify(level.solids))
  provideAsset(hash, packMesh(meshOfShapes(shapes)))
  const mesh = { name: 'Import', assetId: hash, at: [0, 0, 0], turnRad: 0, scale: 1, walkable: true, blocksSight: true }
  return {
    ...level,
    solids: {},
    meshes: {
      ms_a: { ...mesh, note: '', tags: [], locked: false, hidden: false } as unknown as Level['meshes'][string],
    },
  }
}

const SCENES: Record<string, { level: Level; yes: [number, number, number][][]; no: [number, number, number][][] }> = {
  'a bridge over a road': {
    level: sceneLevel(40, 30, {
      sd_up: ramp(8, 15.1, 12, 4.03, 0, 4),
      sd_deck: box(14, 13.07, 26, 17.11, 0.5, { baseM: 3.5, ...deck }),
      sd_down: ramp(32, 15.1, 12, 4.03, 0, 4, Math.PI),
    }),
    yes: [
      [
        [3, 3, 0],
        [20, 15, 4],
      ],
      [
        [20, 5, 0],
        [20, 25, 0],
      ],
    ],
    no: [],
  },
  'a ramp that winds over itself': {
    level: sceneLevel(40, 40, {
      sd_a: ramp(20, 8.1, 16, 4.03, 0, 3),
      sd_b: box(28, 6.09, 32.1, 10.12, 3, deck),
      sd_c: ramp(30, 18.1, 16, 4.06, 3, 6, Math.PI / 2),
      sd_d: box(28, 26.1, 32.1, 30.1, 6, deck),
      sd_e: ramp(20, 28.1, 16, 4.03, 6, 9, Math.PI),
      sd_f: box(8, 26.1, 12, 30.1, 0.5, { baseM: 8.5, ...deck }),
      sd_g: ramp(10, 18.1, 16, 4.03, 9, 12, -Math.PI / 2),
      sd_h: box(8, 6.1, 12.1, 10.1, 0.5, { baseM: 11.5, ...deck }),
    }),
    yes: [
      [
        [3, 8, 0],
        [10, 8, 12],
      ],
    ],
    no: [],
  },
  'a cellar under a floor': {
    level: sceneLevel(30, 30, {
      sd_lid: box(8, 8, 22, 22, 0.4, { baseM: 2.6, ...deck }),
      sd_w1: box(8, 8, 8.4, 22, 2.6),
      sd_w2: box(21.6, 8, 22, 22, 2.6),
      sd_w3: box(8, 21.6, 22, 22, 2.6),
      sd_w4: box(8, 8, 14.07, 8.4, 2.6),
      sd_w5: box(15.6, 8, 22, 8.4, 2.6),
    }),
    yes: [
      [
        [3, 3, 0],
        [15, 15, 0],
      ],
    ],
    no: [
      [
        [3, 3, 0],
        [15, 15, 3],
      ],
    ],
  },
}

describe.each(Object.entries(SCENES))('%s', (_name, { level, yes, no }) => {
  const asBlocks = reachOf(level)
  const asImport = reachOf(asMesh(level))

  it('joins what one can walk between, and nothing else', () => {
    for (const [from, to] of yes) expect(walks(asBlocks, from, to)).toBe(true)
    for (const [from, to] of no) expect(walks(asBlocks, from, to)).toBe(false)
  })

  it('gives an imported mesh of the same scene the same reach', () => {
    for (const [from, to] of yes) expect(walks(asImport, from, to)).toBe(true)
    for (const [from, to] of no) expect(walks(asImport, from, to)).toBe(false)
    let columns = 0
    let different = 0
    asBlocks.tiles.forEach((tile, k) => {
      const other = asImport.tiles[k]
      for (let c = 0; c < tile.start.length - 1; c++) {
        const heights = (t: typeof tile, map: ReachMap) =>
          Array.from({ length: t.start[c + 1] - t.start[c] }, (_, q) => ({ tile: k, column: c, floor: t.start[c] + q }))
            .filter((s) => map.isFree(s, map.middleX(s), map.middleY(s)))
            .map((s) => s.floor)
            .map((f) => Math.round(t.z[f] * 20))
            .join()
        columns++
        if (heights(tile, asBlocks) !== heights(other, asImport)) different++
      }
    })
    // What blocks tell exactly an import tells by its columns, so along edges some fall either way.
    expect(different / columns).toBeLessThan(0.008)
  })
})

describe('stairs', () => {
  const flights = (steps: number) =>
    reachOf(
      sceneLevel(40, 20, {
        sd_s1: stairs(8, 10, 6, steps, 0, 3),
        sd_d1: box(11, 8, 19, 12, 0.3, { baseM: 2.7, ...deck }),
        sd_s2: stairs(22, 10, 6, steps, 3, 6),
        sd_d2: box(25, 8, 33, 12, 0.3, { baseM: 5.7, ...deck }),
      }),
    )

  it('join three floors when their risers are within the warden’s 0.40 m step', () => {
    const map = flights(8)
    expect(walks(map, [2, 10, 0], [15, 10, 3])).toBe(true)
    expect(walks(map, [2, 10, 0], [29, 10, 6])).toBe(true)
  })

  it('join nothing when a riser is higher than the step', () => {
    expect(walks(flights(7), [2, 10, 0], [15, 10, 3])).toBe(false)
  })

  it('can be climbed whatever the column width', () => {
    for (const cellM of [0.1, 0.5]) {
      const level = sceneLevel(
        20,
        20,
        { sd_s: stairs(8, 10, 6, 16, 0, 3), sd_d: box(11, 8, 17, 12, 3, deck) },
        { settings: { extent: { minX: 0, minY: 0, maxX: 20, maxY: 20 }, cellM } },
      )
      expect(walks(reachOf(level), [2, 10, 0], [14, 10, 3])).toBe(true)
    }
  })
})

describe('meshes', () => {
  it('keep walkers the radius away from upright sheets, however thin', () => {
    const hash = fakeHash('sheet')
    provideAsset(
      hash,
      packMesh({
        positions: Float32Array.from([10.03, 4, 0, 10.03, 16, 0, 10.03, 16, 3, 10.03, 4, 3]),
        indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
      }),
    )
    const level = sceneLevel(20, 20, {}, { meshes: { ms_a: { name: 'Fence', assetId: hash, at: [0, 0, 0] } } })
    const map = reachOf(level)
    for (let x = 8.125; x < 12; x += 0.25) expect(stands(map, x, 10, 0)).toBe(Math.abs(x - 10.03) > 0.344)
    expect(whyNotHere(map, [10.2, 10, 0])).toBe('too close to Fence (0.17 m of 0.35 m)')
    expect(walks(map, [9, 10, 0], [11, 10, 0])).toBe(true)
  })

  it('are too steep to stand on beyond the profile’s slope, and say so', () => {
    const slope = (deg: number) => {
      const hash = fakeHash(`slope ${deg}`)
      const h = 8 * Math.tan((deg * Math.PI) / 180)
      provideAsset(
        hash,
        packMesh({
          positions: Float32Array.from([6, 4, 0, 14, 4, h, 14, 16, h, 6, 16, 0]),
          indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
        }),
      )
      return reachOf(sceneLevel(20, 20, {}, { meshes: { ms_a: { name: '', assetId: hash, at: [0, 0, 0] } } }))
    }
    expect(stands(slope(37), 12, 10, 6 * Math.tan((37 * Math.PI) / 180))).toBe(true)
    expect(whyNotHere(slope(41), [12, 10, 5.3])).toBe('too steep (41° of at most 38°)')
  })

  it('turn, grow and move as they are placed', () => {
    const hash = fakeHash('plate')
    provideAsset(
      hash,
      packMesh({
        positions: Float32Array.from([0, 0, 0, 4, 0, 0, 4, 1, 0, 0, 1, 0]),
        indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
      }),
    )
    const place = { assetId: hash, at: [10, 5, 2], turnRad: Math.PI / 2, scale: 2 }
    const level = sceneLevel(20, 20, {}, { meshes: { ms_a: { name: '', ...place } as never } })
    const map = reachOf(level)
    expect(stands(map, 9, 9, 2)).toBe(true)
    expect(stands(map, 13, 9, 2)).toBe(false)
  })

  it('survive packing, and are refused when damaged', () => {
    const mesh = meshOfShapes(terrainOf(SCENES['a cellar under a floor'].level).solids)
    expect(unpackMesh(packMesh(mesh))).toEqual(mesh)
    expect(unpackMesh(packMesh(mesh), true)).toEqual(mesh)
    const bytes = packMesh(mesh)
    expect(() => unpackMesh(bytes.subarray(0, bytes.length - 4))).toThrow(/bytes where \d+ are expected/)
    new DataView(bytes.buffer).setUint32(12 + mesh.positions.byteLength, 9999, true)
    expect(() => unpackMesh(bytes)).toThrow('a triangle names vertex 9999')
  })
})

it('reaches exactly what a slow flood over the same columns reaches, over several floors', () => {
  const { level } = SCENES['a bridge over a road']
  const thin: Level = {
    ...level,
    profiles: { pf_warden: { ...level.profiles.pf_warden, radiusM: 0.001 } },
  }
  const map = buildReach({ ...reachSource(asMesh(thin), 'pf_warden'), cellM: 0.25 })
  const rules = { sizeX: 40, sizeY: 30, cellM: map.source.cellM, stepM: 0.4, heightM: 1.9 }
  const slow = flood(terrainOf(thin), [3, 3, 0], rules)
  const start = map.floorAt(3, 3, 0)!
  let wrong = 0
  let all = 0
  map.tiles.forEach((tile, t) => {
    for (let column = 0; column < 4096; column++) {
      const i = tile.i0 + (column % 64)
      const j = tile.j0 + Math.floor(column / 64)
      for (let f = tile.start[column]; f < tile.start[column + 1]; f++) {
        const fast = map.islandOf({ tile: t, column, floor: f }) === map.islandOf(start)
        all++
        if (fast !== slow.has(`${i} ${j} ${Math.round(tile.z[f] * 1000)}`)) wrong++
      }
    }
  })
  expect(all).toBeGreaterThan(19_000)
  expect(wrong / all).toBeLessThan(0.002)
})

describe('other media', () => {
  const bay = (more: NonNullable<LevelInput['profiles']>) =>
    sceneLevel(
      60,
      20,
      { sd_pier: box(28, 0, 30, 14, 3, { baseM: -3, name: 'Pier' }) },
      {
        ground: { heights: { originX: 0, originY: 0, spacingM: 20, rows: [0, 1].map(() => [2, -2, -2, -2]) } },
        settings: { extent: { minX: 0, minY: 0, maxX: 60, maxY: 20 }, waterLevelM: 0 },
        profiles: more,
      },
    )
  const body = { radiusM: 1, heightM: 2, stepM: 0.3, maxSlopeRad: 0.6, gaits: { go: 2 }, gait: 'go' }
  const reachFor = (profile: object) => buildReach(reachSource(bay({ pf_a: { ...body, ...profile } as never }), 'pf_a'))

  it('boats float where the water is deep enough, and not through piers', () => {
    const map = reachFor({ name: 'Skiff', medium: 'water', draughtM: 0.5 })
    // The bed falls from 2 m to −2 m over 20 m: half a metre of water from x = 12.5 on.
    expect(stands(map, 15, 10, -0.5)).toBe(true)
    expect(whyNotHere(map, [12, 10, 0])).toBe('water too shallow (0.40 m of 0.50 m)')
    expect(whyNotHere(map, [5, 10, 1])).toBe('no water here')
    expect(whyNotHere(map, [27.5, 5, 0])).toMatch(/^too close to Pier/)
    expect(walks(map, [20, 5, 0], [40, 5, 0])).toBe(true)
    expect(map.islands.list).toHaveLength(1)
  })

  it('flyers keep to their height band: over what is lower, round what is higher', () => {
    const high = reachFor({
      name: 'Gull',
      medium: 'air',
      radiusM: 0.5,
      heightM: 0.4,
      minAltitudeM: 2,
      maxAltitudeM: 12,
    })
    const low = reachFor({
      name: 'Moth',
      medium: 'air',
      radiusM: 0.5,
      heightM: 0.4,
      minAltitudeM: 1,
      maxAltitudeM: 1.5,
    })
    const length = (map: ReachMap) => {
      const path = new PathFinder(map).find([20, 5, 2], [40, 5, 2])
      return path.found ? path.lengthM : Infinity
    }
    expect(length(high)).toBeCloseTo(20, 1)
    // The pier’s top is level with the water: the low flyer crosses it too, but not a wall put on it.
    expect(length(low)).toBeCloseTo(20, 1)
    const walled = bay({
      pf_a: { ...body, name: 'Moth', medium: 'air', radiusM: 0.5, minAltitudeM: 1, maxAltitudeM: 3 } as never,
    })
    const wall = { ...walled.solids.sd_pier, heightM: 20 }
    const map = buildReach(reachSource({ ...walled, solids: { sd_pier: wall } }, 'pf_a'))
    expect(length(map)).toBeGreaterThan(25)
  })

  it('amphibious bodies walk in and swim on', () => {
    const map = reachFor({ name: 'Skipper', medium: 'amphibious', radiusM: 0.4, maxWaterDepthM: 0.5, draughtM: 0.5 })
    expect(walks(map, [3, 18, 1.4], [50, 18, -0.5])).toBe(true)
    const wader = reachFor({ name: 'Wader', medium: 'foot', radiusM: 0.4, maxWaterDepthM: 0.5 })
    expect(walks(wader, [3, 18, 1.4], [50, 18, -0.5])).toBe(false)
    expect(whyNotHere(wader, [40, 10, -2])).toBe('water too deep (2.00 m of at most 0.50 m)')
  })
})
