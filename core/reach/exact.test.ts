import { describe, expect, it } from 'vitest'
import { footprint, packMesh, provideAsset, terrainOf } from '@tidytrail/core/ground'
import { levelSchema, type Level, type LevelInput } from '@tidytrail/core/level'
import {
  box,
  chance,
  exactShortest,
  fakeHash,
  meshOfShapes,
  grownRing,
  pathToLines,
  placeToLine,
  sceneLevel,
  sidesOf,
} from '@tidytrail/core/testing'
import { buildReach, PathFinder, reachSource, whyNotHere } from '.'

/** The solids as an imported mesh. */
function meshAsset(solids: Solids): string {
  const shapes = terrainOf(sceneLevel(20, 20, solids)).solids
  const mesh = meshOfShapes(shapes)
  const hash = fakeHash(JSON.stringify(solids))
  provideAsset(hash, packMesh(mesh))
  return hash
}

type Place = [number, number, number]
type Solids = NonNullable<LevelInput['solids']>
type Line = readonly [readonly number[], readonly number[]]

/** A square level whose columns are so wide, for a warden of a radius. */
function scene(sideM: number, cellM: number, radiusM: number, solids: Solids, more: Partial<LevelInput> = {}): Level {
  const extent = { minX: 0, minY: 0, maxX: sideM, maxY: sideM }
  const level = sceneLevel(sideM, sideM, solids, { ...more, settings: { extent, cellM } as never })
  return levelSchema.parse({ ...level, profiles: { pf_warden: { ...level.profiles.pf_warden, radiusM } } })
}
const mapOf = (level: Level) => buildReach(reachSource(level, 'pf_warden'))

/** A wall across the level with a doorway of a width about (x, y), turned by some degrees, and a place on either side. */
function doorway(turnedDeg: number, widthM: number, thickM: number, x: number, y: number) {
  const turnRad = (turnedDeg * Math.PI) / 180
  const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)]
  const wall = (from: number, to: number): Solids[string] => ({
    shape: 'box',
    name: 'Wall',
    at: [x + (c * (from + to)) / 2, y + (s * (from + to)) / 2],
    sizeX: to - from,
    sizeY: thickM,
    turnRad,
    baseM: 0,
    heightM: 3,
  })
  const solids: Solids = { sd_a: wall(-16, -widthM / 2), sd_b: wall(widthM / 2, 16) }
  const ends: [Place, Place] = [
    [x - s * 3, y + c * 3, 0],
    [x + s * 3, y - c * 3, 0],
  ]
  return { solids, ends, turnRad }
}

describe.each([0.25, 0.5])('with columns of %f m', (cellM) => {
  it('a doorway is open from 2 cm more than the body’s width and shut from 2 cm less, at every angle', () => {
    const next = chance(11)
    const wrong: string[] = []
    for (let deg = 0; deg < 180; deg += 9) {
      for (const thickM of [0.08, 0.5]) {
        for (const moreM of [-0.1, -0.02, 0.02, 0.05, 0.4]) {
          const { solids, ends } = doorway(deg, 0.7 + moreM, thickM, 6 + next(), 6 + next())
          const { found } = new PathFinder(mapOf(scene(13, cellM, 0.35, solids))).find(...ends)
          if (found !== moreM > 0) wrong.push(`${deg}° ${thickM} m thick, ${moreM} m wider: ${found}`)
        }
      }
    }
    expect(wrong).toEqual([])
  })

  it('a doorway in an imported mesh is as exact where its walls stand upright', () => {
    const next = chance(13)
    const wrong: string[] = []
    let reasons = 0
    for (let deg = 0; deg < 180; deg += 15) {
      for (const thickM of [0.08, 0.5]) {
        for (const moreM of [-0.1, -0.02, 0.02, 0.05]) {
          const [x, y] = [6 + next(), 6 + next()]
          const { solids, ends } = doorway(deg, 0.7 + moreM, thickM, x, y)
          const level = scene(
            13,
            cellM,
            0.35,
            {},
            { meshes: { ms_a: { name: 'Town', assetId: meshAsset(solids), at: [0, 0, 0] } } },
          )
          const map = mapOf(level)
          const { found } = new PathFinder(map).find(...ends)
          if (found !== moreM > 0) wrong.push(`${deg}° ${thickM} m thick, ${moreM} m wider: ${found}`)
          if (moreM > 0) continue
          // In the middle of the doorway it is half its width from either side.
          const why = whyNotHere(map, [x, y, 0])
          const half = ((0.7 + moreM) / 2).toFixed(2)
          if (why !== `too close to Town (${half} m of 0.35 m)`) wrong.push(`${deg}°: ${why} instead of ${half}`)
          reasons++
        }
      }
    }
    expect(wrong).toEqual([])
    expect(reasons).toBe(48)
  })

  it('a doorway with a low sill, a ramp or steps in it is as wide as one without', () => {
    const next = chance(12)
    const wrong: string[] = []
    for (let deg = 0; deg < 180; deg += 15) {
      for (const moreM of [-0.02, 0.02]) {
        for (const shape of ['sill', 'ramp', 'stairs']) {
          const [x, y] = [6 + next(), 6 + next()]
          const { solids, ends, turnRad } = doorway(deg, 0.7 + moreM, 0.4, x, y)
          const across = turnRad + Math.PI / 2
          const [c, s] = [Math.cos(across), Math.sin(across)]
          const in1 = { name: shape, walkable: true, baseM: 0, turnRad: across, sizeY: 2 }
          if (shape === 'sill') solids.sd_c = { ...in1, shape: 'box', at: [x, y], sizeX: 0.6, heightM: 0.3 }
          else {
            // Up to a platform beyond the wall, which is stood on.
            const up = { ...in1, at: [x, y] as [number, number], sizeX: 3, heightM: 1.5 }
            solids.sd_c = shape === 'ramp' ? { ...up, shape: 'ramp' } : { ...up, shape: 'stairs', steps: 10 }
            const far = { at: [x + c * 2.5, y + s * 2.5] as [number, number], sizeX: 2, heightM: 1.5 }
            solids.sd_d = { ...in1, ...far, shape: 'box' }
            ends[0] = [x + c * 2.5, y + s * 2.5, 1.5]
          }
          const { found } = new PathFinder(mapOf(scene(13, cellM, 0.35, solids))).find(...ends)
          if (found !== moreM > 0) wrong.push(`${shape}, ${deg}°, ${moreM} m wider: ${found}`)
        }
      }
    }
    expect(wrong).toEqual([])
  })

  it.each([0.3, 0.9])('paths of a body of radius %f m are the exact shortest, and never too near', (radiusM) => {
    const sideM = 20
    const ratios: number[] = []
    let nearest = Infinity
    let asked = 0
    for (let seed = 1; seed <= 6; seed++) {
      const next = chance(seed * 31 + Math.round(radiusM * 100))
      const solids: Solids = {}
      for (let k = 0; k < 9; k++) {
        const at: [number, number] = [next() * sideM, next() * sideM]
        const base = { name: `Block ${k}`, at, baseM: 0, heightM: 3 }
        const kind = next()
        const turnRad = next() * 6
        if (kind < 0.4) solids[`sd_${k}`] = { ...base, shape: 'box', sizeX: 1 + next() * 7, sizeY: 0.08, turnRad }
        else if (kind < 0.7)
          solids[`sd_${k}`] = { ...base, shape: 'box', sizeX: 1 + next() * 3, sizeY: 1 + next() * 3, turnRad }
        else solids[`sd_${k}`] = { ...base, shape: 'cylinder', radiusM: 0.3 + next() * 1.5 }
      }
      const level = scene(sideM, cellM, radiusM, solids)
      const rings = Object.values(level.solids).map((s) => footprint(s))
      const lines: Line[] = rings.flatMap(sidesOf)
      const finder = new PathFinder(mapOf(level))
      const grown = (r: number) => [...rings.map((g) => grownRing(g, r, g.length > 8 ? 1 : 4)), ...rimOf(sideM, r)]
      for (let k = 0; k < 4; k++) {
        const [a, b]: Place[] = [
          [next() * sideM, next() * sideM, 0],
          [next() * sideM, next() * sideM, 0],
        ]
        if (![a, b].every((p) => clearOf(p, rings, sideM) > radiusM + 0.01)) continue
        const shortest = exactShortest([a[0], a[1]], [b[0], b[1]], grown(radiusM))
        const path = finder.find(a, b)
        asked++
        // Where only a gap of the very width leads through, either answer will do.
        if (path.found !== shortest < Infinity)
          expect(exactShortest([a[0], a[1]], [b[0], b[1]], grown(radiusM + 0.01))).toBe(Infinity)
        if (!path.found) continue
        nearest = Math.min(nearest, pathToLines(path.line, lines))
        if (shortest < Infinity) ratios.push(path.lengthM / shortest)
      }
    }
    expect(asked).toBeGreaterThan(6)
    expect(nearest).toBeGreaterThan(radiusM - 0.01)
    expect(Math.max(...ratios)).toBeLessThan(1.01)
    expect(Math.min(...ratios)).toBeGreaterThan(0.995)
    expect(ratios.reduce((s, r) => s + r, 0) / ratios.length).toBeLessThan(1.002)
  })

  it('paths up ramps and stairs onto decks are the exact shortest, and keep from every edge one cannot step over', () => {
    const sideM = 24
    const radiusM = 0.35
    const stepM = 0.4
    const ratios: number[] = []
    let nearest = Infinity
    for (let seed = 1; seed <= 8; seed++) {
      const next = chance(seed * 17)
      const turnRad = next() * 6
      const at: [number, number] = [12 + next(), 12 + next()]
      const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)]
      const place = (u: number, v: number) => [at[0] + c * u - s * v, at[1] + s * u + c * v] as const
      const heightM = 1.5 + next()
      const wide = 1.2 + next() * 2
      const off = (next() - 0.5) * (5 - wide)
      const steps = Math.ceil(heightM / 0.3)
      const risen = {
        name: 'Up',
        at: [...place(-5, off)] as [number, number],
        sizeX: 4,
        sizeY: wide,
        turnRad,
        baseM: 0,
        heightM,
        walkable: true,
      }
      const level = scene(sideM, cellM, radiusM, {
        sd_deck: { shape: 'box', name: 'Deck', at, sizeX: 6, sizeY: 5, turnRad, baseM: 0, heightM, walkable: true },
        sd_up: seed % 2 ? { ...risen, shape: 'ramp' } : { ...risen, shape: 'stairs', steps },
      })
      // What bars the way, worked out by hand: the deck’s rim but for where one comes up, and the sides of the way up
      // from where they are higher than a step.
      const from = seed % 2 ? (stepM / heightM) * 4 : (Math.floor((stepM / heightM) * steps + 1e-9) / steps) * 4
      const bars: Line[] = [
        [place(-3, -2.5), place(3, -2.5)],
        [place(3, -2.5), place(3, 2.5)],
        [place(3, 2.5), place(-3, 2.5)],
        [place(-3, 2.5), place(-3, off + wide / 2)],
        [place(-3, off - wide / 2), place(-3, -2.5)],
        [place(-7 + from, off + wide / 2), place(-3, off + wide / 2)],
        [place(-7 + from, off - wide / 2), place(-3, off - wide / 2)],
      ]
      const thin = bars.map(([p, q]) => {
        const length = Math.hypot(q[0] - p[0], q[1] - p[1])
        const n = [((q[1] - p[1]) / length) * 1e-4, (-(q[0] - p[0]) / length) * 1e-4]
        const ring: [number, number][] = [
          [p[0] + n[0], p[1] + n[1]],
          [q[0] + n[0], q[1] + n[1]],
          [q[0] - n[0], q[1] - n[1]],
          [p[0] - n[0], p[1] - n[1]],
        ]
        return grownRing(ring, radiusM, 4)
      })
      const finder = new PathFinder(mapOf(level))
      for (let k = 0; k < 3; k++) {
        const b: Place = [...place((next() - 0.5) * 4, (next() - 0.5) * 3.5), heightM]
        const a: Place = [1 + next() * 22, 1 + next() * 22, 0]
        if (clearOf(a, [footprint(level.solids.sd_deck), footprint(level.solids.sd_up)], sideM) < radiusM + 0.05)
          continue
        const path = finder.find(a, b)
        expect(path.found).toBe(true)
        if (!path.found) continue
        nearest = Math.min(nearest, pathToLines(path.line, bars))
        ratios.push(path.lengthM / exactShortest([a[0], a[1]], [b[0], b[1]], [...thin, ...rimOf(sideM, radiusM)]))
      }
    }
    expect(ratios.length).toBeGreaterThan(12)
    expect(nearest).toBeGreaterThan(radiusM - 0.01)
    expect(Math.max(...ratios)).toBeLessThan(1.02)
    expect(ratios.reduce((s, r) => s + r, 0) / ratios.length).toBeLessThan(1.01)
  })
})

/** The level's extent as four walls around it, grown inwards by a radius. */
function rimOf(sideM: number, r: number): [number, number][][] {
  const e = 5
  const rect = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ]
  return [
    rect(-e, -e, sideM + e, r),
    rect(-e, sideM - r, sideM + e, sideM + e),
    rect(-e, -e, r, sideM + e),
    rect(sideM - r, -e, sideM + e, sideM + e),
  ]
}

/** How far a place is from all rings and the extent; 0 inside of one. */
function clearOf(p: readonly number[], rings: readonly (readonly (readonly number[])[])[], sideM: number): number {
  let best = Math.min(p[0], p[1], sideM - p[0], sideM - p[1])
  for (const ring of rings) {
    const inside = sidesOf(ring).every(([a, b]) => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0)
    if (inside) return 0
    for (const [a, b] of sidesOf(ring)) best = Math.min(best, placeToLine(p, a, b))
  }
  return best
}

describe('a place near something', () => {
  const level = scene(20, 0.25, 0.35, {
    sd_w: { shape: 'box', name: 'Wall', at: [10, 10], sizeX: 6, sizeY: 0.2, turnRad: 0.4, baseM: 0, heightM: 3 },
    sd_d: box(2, 2, 6, 6, 2, { name: 'Deck', walkable: true }),
  })
  const map = mapOf(level)
  const [c, s] = [Math.cos(0.4), Math.sin(0.4)]
  const beside = (m: number): Place => [10 - s * (0.1 + m), 10 + c * (0.1 + m), 0]

  it.each([0.02, 0.11, 0.2, 0.25, 0.33])('is refused with the true distance, %f m', (m) => {
    expect(whyNotHere(map, beside(m))).toBe(`too close to Wall (${m.toFixed(2)} m of 0.35 m)`)
    expect(map.reachedAt(...beside(m))).toBeUndefined()
  })

  it('is free from the radius on, and paths lead there', () => {
    expect(whyNotHere(map, beside(0.351))).toBeUndefined()
    expect(new PathFinder(map).find([1, 18, 0], beside(0.351)).found).toBe(true)
  })

  it('names the edge it is too near to, of a deck and of the level', () => {
    expect(whyNotHere(map, [5.9, 4, 2])).toBe('too close to the edge of Deck (0.10 m of 0.35 m)')
    expect(whyNotHere(map, [19.8, 10, 0])).toBe('too close to the edge of the level (0.20 m of 0.35 m)')
  })

  it('is given the same answer by all who are asked: free or not, why, path, nearest', () => {
    const next = chance(5)
    const finder = new PathFinder(map)
    let refused = 0
    for (let k = 0; k < 400; k++) {
      const p: Place = [next() * 20, next() * 20, 0]
      const reached = map.reachedAt(...p)
      const path = finder.find([1, 18, 0], p)
      expect(whyNotHere(map, p) === undefined).toBe(reached !== undefined)
      if (!reached) {
        refused++
        expect(path.found).toBe(false)
      } else expect(path.found || path.why === 'apart').toBe(true)
      const near = map.nearestReached(...p, 3)
      expect(near).toBeDefined()
      expect(whyNotHere(map, near!.at)).toBeUndefined()
    }
    expect(refused).toBeGreaterThan(20)
  })
})

it('a body is held off by every side of a ring of hundreds, however close they lie', () => {
  const ring = Array.from({ length: 600 }, (_, k): [number, number] => {
    const a = (2 * Math.PI * k) / 600
    return [10 + Math.cos(a) * 0.5, 10 + Math.sin(a) * 0.5]
  })
  const map = mapOf(scene(20, 0.25, 0.35, { sd_p: { shape: 'prism', name: 'Pillar', ring, baseM: 0, heightM: 3 } }))
  for (let k = 0; k < 60; k++) {
    const a = (2 * Math.PI * k) / 60
    const at = (m: number): Place => [10 + Math.cos(a) * (0.5 + m), 10 + Math.sin(a) * (0.5 + m), 0]
    expect(map.reachedAt(...at(0.34))).toBeUndefined()
    expect(map.reachedAt(...at(0.36))).toBeDefined()
  }
  const path = new PathFinder(map).find([5, 10, 0], [15, 10, 0])
  expect(path.found && pathToLines(path.line, sidesOf(ring))).toBeGreaterThan(0.34)
})

it('ground too steep to stand on that comes up through a deck is kept away from, as near as columns tell', () => {
  const steep = Array.from({ length: 21 }, () => Array.from({ length: 21 }, (_, i) => (i < 10 ? 0 : (i - 10) * 2)))
  const level = scene(
    20,
    0.25,
    0.35,
    { sd_d: box(4, 4, 16, 16, 1, { name: 'Deck', walkable: true }) },
    { ground: { heights: { originX: 0, originY: 0, spacingM: 1, rows: steep } } },
  )
  const map = mapOf(level)
  // The ground reaches the deck’s height of 1 m at x = 10.5.
  expect(map.isFree(map.floorAt(9.5, 10, 1)!, 9.5, 10)).toBe(true)
  expect(map.isFree(map.floorAt(10.4, 10, 1)!, 10.4, 10)).toBe(false)
  expect(whyNotHere(map, [10.4, 10, 1])).toMatch(/^too close to an edge \(.*within 0\.25 m\)$/)
})
