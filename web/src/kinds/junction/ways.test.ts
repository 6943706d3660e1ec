import { changeThings, type Junction, type Level } from '@tidytrail/core/level'
import { crossroads } from '@tidytrail/core/testing'
import { laneNet, usualYields } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'
import { cellOf, nextYields, planOf, wayWords } from './ways'

const put = (level: Level, set: Partial<Junction>) =>
  changeThings.apply(level, { in: 'junctions', changes: { jn_0: set } }).level
const armOf = (level: Level, laneId: string) => laneNet(level).lanes.get(laneId)!.roadId!.slice(3)

describe('the table of a junction', () => {
  const level = crossroads()

  it('numbers ways by where they come from, clockwise from north, from the turn to the left on', () => {
    const { ways } = planOf(level, 'jn_0')
    expect(ways.map((w) => armOf(level, w.from)).join('')).toBe('nnneeessswww')
    // Who comes from the north turns left towards the east.
    expect(ways.slice(0, 3).map((w) => armOf(level, w.to))).toEqual(['e', 's', 'w'])
    expect(wayWords(level, ways[0])).toBe('n ahead 1 into e back 1')
    expect(planOf(level, 'jn_0')).toBe(planOf(level, 'jn_0'))
  })

  it('says of each pair the same from both sides', () => {
    const done = put(level, { control: 'give-way', yields: usualYields(level, laneNet(level), level.junctions.jn_0) })
    const { ways, pairOf } = planOf(done, 'jn_0')
    const other = { waits: 'goes', goes: 'waits', none: 'none', open: 'open' } as Record<string, string>
    for (const a of ways)
      for (const b of ways) {
        const cell = (row: string, column: string) => cellOf(pairOf.get(`${row} ${column}`), row)
        expect(cell(b.id, a.id)).toBe(other[cell(a.id, b.id)])
      }
  })

  it('goes round what a cell may be, and leaves all others as they are', () => {
    let now = put(level, { control: 'give-way', yields: usualYields(level, laneNet(level), level.junctions.jn_0) })
    const { pairs } = planOf(now, 'jn_0')
    const { a, b } = pairs[0]
    const cell = () => cellOf(planOf(now, 'jn_0').pairOf.get(`${a.id} ${b.id}`), a.id)
    const rest = () =>
      planOf(now, 'jn_0')
        .pairs.filter((p) => p.a.id !== a.id || p.b.id !== b.id)
        .map((p) => JSON.stringify(p.settled))
    const before = rest()
    const seen: string[] = []
    for (let k = 0; k < 4; k++) {
      seen.push(cell())
      now = put(now, { yields: nextYields(now.junctions.jn_0, a, b, cell()) })
      expect(rest()).toEqual(before)
    }
    expect(new Set(seen)).toEqual(new Set(['waits', 'stops', 'goes', 'open']))
    expect(cell()).toBe(seen[0])
  })

  it('keeps how far one looks when it is to stop first', () => {
    const yields = usualYields(level, laneNet(level), level.junctions.jn_0)
    const said = put(level, { control: 'give-way', yields: yields.map((y, k) => (k === 0 ? { ...y, watchM: 9 } : y)) })
    const { ways } = planOf(said, 'jn_0')
    const way = (id: string | null) => ways.find((w) => w.id === id)!
    const next = nextYields(said.junctions.jn_0, way(yields[0].linkId), way(yields[0].toLinkId), 'waits')
    expect(next.filter((y) => y.watchM === 9)).toMatchObject([{ linkId: yields[0].linkId, stops: true }])
  })
})
