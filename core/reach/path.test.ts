import { describe, expect, it } from 'vitest'
import { box, chance, exactShortest, grownRing, prisms, sceneLevel, strewnObstacles } from '@tidytrail/core/testing'
import { bendsOf, buildReach, PathFinder, reachSource } from '.'
import { gridPath } from './grid-path'

const reachOf = (level: ReturnType<typeof sceneLevel>) => buildReach(reachSource(level, 'pf_warden'))

describe('a found path', () => {
  it('is straight where nothing is in the way', () => {
    const finder = new PathFinder(reachOf(sceneLevel(40, 40, {})))
    const path = finder.find([2, 2, 0], [33, 21, 0])
    expect(path).toMatchObject({
      found: true,
      line: [
        [2, 2, 0],
        [33, 21, 0],
      ],
    })
  })

  it('is within 1 % of the exact shortest on average and 4 % at worst, among strewn obstacles', () => {
    const ratios: number[] = []
    for (let seed = 1; seed <= 4; seed++) {
      const rings = strewnObstacles(90, 14, seed, 1.2)
      const map = reachOf(sceneLevel(90, 90, prisms(rings)))
      const finder = new PathFinder(map)
      const grown = rings.map((r) => grownRing(r, 0.35, 3))
      const next = chance(seed)
      for (let k = 0; k < 12; k++) {
        const a: [number, number, number] = [1 + next() * 88, 1 + next() * 15, 0]
        const b: [number, number, number] = [1 + next() * 88, 74 + next() * 15, 0]
        const path = finder.find(a, b)
        const exact = exactShortest([a[0], a[1]], [b[0], b[1]], grown)
        if (path.found && exact < Infinity) ratios.push(path.lengthM / exact)
      }
    }
    expect(ratios.length).toBeGreaterThan(30)
    const mean = ratios.reduce((s, r) => s + r, 0) / ratios.length
    expect(mean).toBeLessThan(1.01)
    expect(Math.max(...ratios)).toBeLessThan(1.04)
    expect(Math.min(...ratios)).toBeGreaterThan(0.985)
  })

  it('is never longer than a path from column to column', () => {
    const rings = strewnObstacles(60, 14, 9, 0.3)
    const map = reachOf(sceneLevel(60, 60, prisms(rings)))
    const finder = new PathFinder(map)
    const next = chance(3)
    let compared = 0
    for (let k = 0; k < 60; k++) {
      const a: [number, number, number] = [next() * 60, next() * 60, 0]
      const b: [number, number, number] = [next() * 60, next() * 60, 0]
      const from = map.reachedAt(...a)
      const to = map.reachedAt(...b)
      if (!from || !to) continue
      const slow = gridPath(map, from, to)
      const path = finder.find(a, b)
      expect(path.found).toBe(slow !== undefined)
      if (!slow || !path.found) continue
      let length = 0
      for (let i = 1; i < slow.length; i++) {
        length += Math.hypot(slow[i].x - slow[i - 1].x, slow[i].y - slow[i - 1].y)
      }
      expect(path.lengthM).toBeLessThan(length + 2 * map.source.cellM)
      compared++
    }
    expect(compared).toBeGreaterThan(20)
  })

  it('leads up a ramp onto a deck and names the two sides as apart once the ramp is gone', () => {
    const deck = box(20, 10, 30, 20, 2, { walkable: true, name: 'Deck' })
    const ramp = {
      shape: 'ramp' as const,
      name: '',
      at: [16, 15] as [number, number],
      sizeX: 8,
      sizeY: 4,
      baseM: 0,
      heightM: 2,
      walkable: true,
    }
    const up = new PathFinder(reachOf(sceneLevel(40, 30, { sd_deck: deck, sd_ramp: ramp })))
    const path = up.find([35, 15, 0], [25, 15, 2])
    expect(path.found).toBe(true)
    if (path.found) expect(path.lengthM).toBeGreaterThan(25)
    const without = new PathFinder(reachOf(sceneLevel(40, 30, { sd_deck: deck })))
    expect(without.find([35, 15, 0], [25, 15, 2])).toMatchObject({ found: false, why: 'apart' })
  })

  it('goes under a bridge and over it as two different floors', () => {
    const scene = sceneLevel(40, 40, {
      sd_bridge: box(18, 5, 22, 35, 0.3, { baseM: 3, walkable: true }),
      sd_ramp: {
        shape: 'ramp',
        name: '',
        at: [20, 36.5],
        sizeX: 3,
        sizeY: 4,
        turnRad: -Math.PI / 2,
        baseM: 3,
        heightM: 0.3,
        walkable: true,
      },
    })
    const finder = new PathFinder(reachOf(scene))
    expect(finder.find([5, 20, 0], [35, 20, 0])).toMatchObject({ found: true, lengthM: 30 })
    expect(finder.find([20, 20, 0], [20, 20, 3.3])).toMatchObject({ found: false, why: 'apart' })
  })

  it('does not pass a wall thinner than a column', () => {
    const map = reachOf(sceneLevel(20, 20, { sd_wall: box(9.96, 0, 10.04, 20, 2) }))
    expect(new PathFinder(map).find([5, 10, 0], [15, 10, 0])).toMatchObject({ found: false, why: 'apart' })
    expect(map.islands.list).toHaveLength(2)
  })

  it('says which end is out of reach, and where a straight walk stops', () => {
    const finder = new PathFinder(reachOf(sceneLevel(20, 20, { sd_a: box(8, 0, 12, 20) })))
    expect(finder.find([10, 10, 0], [15, 10, 0])).toMatchObject({ found: false, why: 'start-off-reach' })
    const answer = finder.find([5, 10, 0], [10, 10, 0])
    expect(answer).toMatchObject({ found: false, why: 'end-off-reach' })
    if (!answer.found) expect(answer.stopsAt![0]).toBeCloseTo(7.6, 0)
  })
})

it('has as many bends as there are things it goes round, however many corners each takes', () => {
  const map = reachOf(sceneLevel(30, 20, { sd_a: box(8, 0, 9, 14), sd_b: box(18, 6, 19, 20) }))
  const path = new PathFinder(map).find([3, 3, 0], [27, 17, 0])
  expect(path.found && path.line.length).toBeGreaterThan(5)
  expect(path.found && bendsOf(path.line, 0.35)).toBe(4)
})

describe('paths over floors', () => {
  /** Length of a string pulled tight from a to b round the far side of the disc of a radius about c. */
  function roundDisc(a: [number, number], b: [number, number], c: [number, number], r: number): number {
    const [da, db] = [Math.hypot(a[0] - c[0], a[1] - c[1]), Math.hypot(b[0] - c[0], b[1] - c[1])]
    const dot = (a[0] - c[0]) * (b[0] - c[0]) + (a[1] - c[1]) * (b[1] - c[1])
    const between = Math.acos(dot / (da * db))
    const arc = 2 * Math.PI - between - Math.acos(r / da) - Math.acos(r / db)
    return Math.sqrt(da * da - r * r) + Math.sqrt(db * db - r * r) + r * Math.max(0, arc)
  }

  it('are as short as a string pulled tight up the ramp and onto the deck', () => {
    const level = sceneLevel(40, 20, {
      sd_ramp: {
        shape: 'ramp',
        name: 'Ramp',
        at: [15, 10],
        sizeX: 10,
        sizeY: 4,
        baseM: 0,
        heightM: 4,
        walkable: true,
      },
      sd_deck: box(20, 4, 30, 16, 4, { walkable: true }),
    })
    const finder = new PathFinder(buildReach(reachSource(level, 'pf_warden')))
    // The ramp’s side bars the way where it is higher than a step of 0.40 m: from a metre up the slope.
    const corner: [number, number] = [11, 8]
    for (const [a, b] of [
      [
        [15, 2],
        [25, 10],
      ],
      [
        [18, 5],
        [28, 12],
      ],
      [
        [13, 1],
        [24, 11],
      ],
    ] as [[number, number], [number, number]][]) {
      const way = finder.find([...a, 0], [...b, 4])
      expect(way.found).toBe(true)
      if (!way.found) continue
      const exact = roundDisc(a, b, corner, 0.35)
      expect(way.lengthM / exact).toBeGreaterThan(0.99)
      expect(way.lengthM / exact).toBeLessThan(1.02)
    }
  })
})

it('paths after a run of edits are those a fresh finder finds', () => {
  const next = chance(77)
  const base = sceneLevel(90, 70, prisms(strewnObstacles(65, 10, 5)))
  const map = reachOf(base)
  const finder = new PathFinder(map)
  let level = base
  const ends = Array.from(
    { length: 6 },
    () => [[1 + next() * 88, 1 + next() * 68, 0] as const, [1 + next() * 88, 1 + next() * 68, 0] as const] as const,
  )
  for (let k = 0; k < 36; k++) {
    const at: [number, number] = [5 + next() * 80, 5 + next() * 60]
    const thing = box(at[0] - 2, at[1] - 1, at[0] + 2 + next() * 4, at[1] + 1 + next() * 3)
    level = sceneLevel(90, 70, { ...level.solids, [`sd_m${k % 4}`]: thing })
    map.carryOut(map.planFor(reachSource(level, 'pf_warden'))!)
    // Not every change is followed by a question.
    if (next() < 0.3) continue
    const fresh = new PathFinder(reachOf(level))
    for (const [a, b] of ends) {
      const way = finder.find(a, b)
      const anew = fresh.find(a, b)
      expect(way.found).toBe(anew.found)
      if (way.found && anew.found) expect(way.lengthM).toBeCloseTo(anew.lengthM, 6)
    }
  }
})
