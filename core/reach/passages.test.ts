import { describe, expect, it } from 'vitest'
import { passageSchema, PRESETS, WARDEN, type Level, type LevelInput, type Profile } from '@tidytrail/core/level'
import { box, chance, sceneLevel } from '@tidytrail/core/testing'
import { distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import {
  beyondProfile,
  buildReach,
  catchEnd,
  nearestGap,
  passageFor,
  PathFinder,
  reachCost,
  reachSource,
  suggestPassages,
  travelTimeS,
  usablePassages,
} from '.'

type Passages = NonNullable<LevelInput['passages']>

const deckScene = (heightM: number, passages: Passages = {}) =>
  sceneLevel(40, 20, { sd_deck: box(10.1, 5.1, 25.1, 15.1, heightM, { walkable: true, name: 'Deck' }) }, { passages })
const mapOf = (level: Level) => buildReach(reachSource(level, 'pf_warden'))
function finderOf(level: Level, profile: Profile = level.profiles.pf_warden) {
  const map = mapOf(level)
  const finder = new PathFinder(map)
  finder.usePassages(usablePassages(map, level.passages, 'pf_warden', profile), 1.4)
  return { map, finder }
}
const passage = (more: object): Passages[string] =>
  ({ name: '', kind: 'ladder', from: [9, 10, 0], to: [11, 10, 4], takesS: 4, ...more }) as Passages[string]

describe('a passage', () => {
  it('joins islands that walking alone does not', () => {
    const without = finderOf(deckScene(4)).finder.find([3, 10, 0], [20, 10, 4])
    expect(without).toMatchObject({ found: false, why: 'apart' })
    const path = finderOf(deckScene(4, { pg_a: passage({}) })).finder.find([3, 10, 0], [20, 10, 4])
    expect(path).toMatchObject({ found: true, uses: [{ passageId: 'pg_a', kind: 'ladder', at: 1, takesS: 4 }] })
    if (path.found) {
      expect(path.lengthM).toBeCloseTo(17, 0)
      expect(travelTimeS(path, 1.4)).toBeCloseTo((17 - 2) / 1.4 + 4, 0)
    }
  })

  it('leads only the way it says', () => {
    const { finder } = finderOf(deckScene(4, { pg_a: passage({ twoWay: false }) }))
    expect(finder.find([3, 10, 0], [20, 10, 4]).found).toBe(true)
    expect(finder.find([20, 10, 4], [3, 10, 0]).found).toBe(false)
  })

  it('is nobody’s while it is locked, and only theirs whom it names', () => {
    expect(
      finderOf(deckScene(4, { pg_a: passage({ state: 'locked' }) })).finder.find([3, 10, 0], [20, 10, 4]).found,
    ).toBe(false)
    const named = (profileIds: string[]) =>
      usablePassages(mapOf(deckScene(4)), { pg_a: passageSchema.parse(passage({ profileIds })) }, 'pf_warden', WARDEN)
    expect(named(['pf_other'])).toHaveLength(0)
    expect(named(['pf_other', 'pf_warden'])).toHaveLength(1)
  })

  it('cannot be climbed on wheels', () => {
    const cart = PRESETS.find((p) => p.medium === 'wheels')!
    const ladder = { pg_a: passageSchema.parse(passage({})) }
    expect(usablePassages(mapOf(deckScene(4)), ladder, 'pf_warden', cart)).toHaveLength(0)
  })

  it('catches the floor within its distance, and otherwise says by how much it misses', () => {
    const map = mapOf(deckScene(4))
    expect(catchEnd(map, [11, 10, 4.2], 0.6)).toMatchObject({ at: [11, 10, 4], missM: expect.closeTo(0.2, 3) })
    // 0.35 m of radius keep the warden off the deck’s edge at 10.1.
    const missed = catchEnd(map, [9.9, 10, 4], 0.3)
    expect(missed.spot).toBeUndefined()
    expect(missed.missM).toBeCloseTo(0.1 + 0.2 + 0.35, 0)
  })

  it('is taken as a short cut when it is quicker than walking round', () => {
    const wall = sceneLevel(
      40,
      40,
      { sd_w: box(19, 0, 20, 38) },
      { passages: { pg_d: passage({ kind: 'door', from: [18.5, 5, 0], to: [20.5, 5, 0], takesS: 2 }) } },
    )
    const { finder } = finderOf(wall)
    const path = finder.find([10, 5, 0], [30, 5, 0])
    expect(path).toMatchObject({ found: true, uses: [{ passageId: 'pg_d' }] })
    const slow = { ...wall, passages: { pg_d: { ...wall.passages.pg_d, takesS: 600 } } }
    expect(finderOf(slow).finder.find([10, 5, 0], [30, 5, 0])).toMatchObject({ found: true, uses: [] })
  })
})

it('ways over many passages are as short as trying every order of them', () => {
  // Five rooms side by side without doors; passages between neighbours at random places.
  const next = chance(31)
  for (let round = 0; round < 6; round++) {
    const solids = Object.fromEntries([1, 2, 3, 4].map((k) => [`sd_w${k}`, box(k * 8 - 0.25, 0, k * 8 + 0.25, 20)]))
    const passages: Passages = {}
    for (let k = 1; k <= 4; k++) {
      for (let n = 0; n < 3; n++) {
        const y = 1 + next() * 18
        passages[`pg_${k}${n}`] = passage({
          kind: 'door',
          from: [k * 8 - 0.9, y, 0],
          to: [k * 8 + 0.9, 1 + next() * 18, 0],
          takesS: 1 + next() * 6,
        })
      }
    }
    const level = sceneLevel(40, 20, solids, { passages })
    const { finder, map } = finderOf(level)
    const usable = usablePassages(map, level.passages, 'pf_warden', level.profiles.pf_warden)
    const from: Point3 = [2, 2 + next() * 16, 0]
    const to: Point3 = [38, 2 + next() * 16, 0]
    // Rooms are convex, so what lies between is walked straight: one passage for each wall, every choice tried.
    let best = Infinity
    const tryFrom = (wall: number, at: Point3, cost: number) => {
      if (wall > 4) {
        best = Math.min(best, cost + distance2(at, to))
        return
      }
      for (const p of usable.filter((u) => u.id.startsWith(`pg_${wall}`)))
        tryFrom(wall + 1, p.to, cost + distance2(at, p.from) + p.takesS * 1.4)
    }
    tryFrom(1, from, 0)
    const path = finder.find(from, to)
    expect(path.found).toBe(true)
    if (!path.found) continue
    const walked =
      lengthOf(path.line) - path.uses.reduce((m, u) => m + distance2(path.line[u.at], path.line[u.at + 1]), 0)
    const cost = walked + path.uses.reduce((m, u) => m + u.takesS * 1.4, 0)
    expect(cost).toBeCloseTo(best, 1)
  }
})

describe('what a profile cannot do', () => {
  const ends = (dx: number, dz: number) => ({ from: [0, 0, 0] as Point3, to: [dx, 0, dz] as Point3 })
  it('is said with both figures', () => {
    expect(beyondProfile({ kind: 'jump', twoWay: true, ...ends(5, 0) }, WARDEN)).toBe(
      'it leads over a gap of 4.30 m, and Warden jumps 1.60 m',
    )
    expect(beyondProfile({ kind: 'drop', twoWay: false, ...ends(1, -3) }, WARDEN)).toBe(
      'it leads down 3.00 m, and Warden drops 2.00 m at most',
    )
    expect(beyondProfile({ kind: 'drop', twoWay: false, ...ends(1, -1.9) }, WARDEN)).toBeUndefined()
    expect(beyondProfile({ kind: 'jump', twoWay: true, ...ends(1, -1.9) }, WARDEN)).toMatch('leads up 1.90 m')
  })
})

describe('islands', () => {
  it('know the narrowest gap between them, its width and height', () => {
    const level = sceneLevel(40, 20, {
      sd_a: box(5, 5, 15, 15, 4, { walkable: true }),
      sd_b: box(18.05, 5, 28, 15, 5, { walkable: true }),
    })
    const map = mapOf(level)
    expect(map.islands.list).toHaveLength(3)
    const [a, b] = [map.floorAt(10, 10, 4)!, map.floorAt(22, 10, 5)!].map((s) => map.islandOf(s))
    const gap = nearestGap(map, a, b)!
    // From 0.35 m behind one edge to 0.35 m behind the other, give or take a column on each side.
    expect(gap.widthM).toBeGreaterThanOrEqual(3.05 + 0.7)
    expect(gap.widthM).toBeLessThan(3.05 + 0.7 + 0.5)
    expect(gap.riseM).toBeCloseTo(1, 3)
    expect(nearestGap(map, b, a)!.riseM).toBeCloseTo(-1, 3)
  })

  it('are suggested drops within the profile’s reach, and the suggestion joins them when taken', () => {
    const low = deckScene(1.8)
    const [first] = suggestPassages(mapOf(low), WARDEN, { joins: () => true })
    expect(first).toMatchObject({ kind: 'drop', twoWay: false, riseM: expect.closeTo(-1.8, 2) })
    const { kind, from, to, twoWay } = first
    const passage = passageSchema.parse({ name: '', kind, from, to, twoWay })
    const { finder } = finderOf({ ...low, passages: { pg_s: passage } })
    expect(finder.find([20, 10, 1.8], [3, 10, 0]).found).toBe(true)
    expect(suggestPassages(mapOf(deckScene(2.2)), WARDEN)).toHaveLength(0)
  })

  it('are suggested as ladders where a drop would be a trap', () => {
    const trapped = suggestPassages(mapOf(deckScene(1.8)), WARDEN)
    expect(trapped.length).toBeGreaterThan(0)
    for (const s of trapped) expect(s).toMatchObject({ kind: 'ladder', twoWay: true })
  })

  it('are suggested first where somebody needs them, even where no jump or drop would do', () => {
    const map = mapOf(deckScene(4))
    const needs = [[map.islandOf(map.floorAt(3, 3, 0)!), map.islandOf(map.floorAt(20, 10, 4)!)]] as [number, number][]
    expect(suggestPassages(map, WARDEN)).toEqual([])
    expect(suggestPassages(map, WARDEN, { needs })).toMatchObject([{ kind: 'ladder', twoWay: true, needed: true }])
  })

  it('are suggested jumps over gaps no wider than the profile’s jump, and none through a wall', () => {
    const twoDecks = (gap: number, wall = false) =>
      sceneLevel(40, 20, {
        sd_a: box(5, 5, 15, 15, 4, { walkable: true }),
        sd_b: box(15 + gap, 5, 28, 15, 4, { walkable: true }),
        ...(wall ? { sd_w: box(15.2, 0, 15.5, 20, 9) } : {}),
      })
    expect(suggestPassages(mapOf(twoDecks(1.2)), WARDEN)[0]).toMatchObject({ kind: 'jump', twoWay: true })
    expect(suggestPassages(mapOf(twoDecks(2)), WARDEN)).toHaveLength(0)
    expect(suggestPassages(mapOf(twoDecks(1.2, true)), WARDEN)).toHaveLength(0)
  })

  it('that are too high for a jump are offered a ladder', () => {
    const map = mapOf(deckScene(4))
    const [ground, deck] = [map.floorAt(3, 3, 0)!, map.floorAt(20, 10, 4)!].map((s) => map.islandOf(s))
    expect(passageFor(map, WARDEN, ground, deck)).toMatchObject({ kind: 'ladder', riseM: 4 })
  })
})

it('the cost of a column width grows with the square of its fineness', () => {
  const extent = { minX: 0, minY: 0, maxX: 100, maxY: 100 }
  expect(reachCost(extent, 0.1).columns).toBe(1_000_000)
  expect(reachCost(extent, 0.1).memoryMB / reachCost(extent, 0.5).memoryMB).toBeCloseTo(25, 6)
  expect(reachCost({ ...extent, maxX: 2000, maxY: 2000 }, 0.1).tooMany).toBe(true)
})
