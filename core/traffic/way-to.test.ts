import { describe, expect, it } from 'vitest'
import { changeThings, type Level } from '@tidytrail/core/level'
import { crossroads, withJoins, withJunctions, withRoads } from '@tidytrail/core/testing'
import { laneNet, wayTo, type LaneNet } from '.'

/** The same, by trying every way there is up to so many in a row. */
function slowly(net: LaneNet, laneId: string, moveId: string, deep = 12): number {
  const mps = (id: string) => net.lanes.get(id)!.route.speedLimitMps ?? 14
  const move = net.moves.get(moveId)!
  const own = move.line.lengthM / Math.max(mps(move.from), mps(move.to))
  if (move.to === laneId) return own
  if (deep === 0) return Infinity
  let least = Infinity
  for (const next of net.out.get(move.to) ?? []) {
    const on = next.fromM - move.toM
    if (on < -0.05) continue
    least = Math.min(least, Math.max(0, on) / mps(move.to) + slowly(net, laneId, next.id, deep - 1))
  }
  return own + least
}

describe('the way to a lane', () => {
  const level = crossroads()
  const net = laneNet(level)
  const ends = [...net.lanes.keys()].filter((id) => !net.out.has(id))

  it('leads over a crossroads by the one way into it', () => {
    for (const end of ends) {
      const way = wayTo(net, end)
      for (const move of net.moves.values()) {
        if (move.to === end) expect(way.over(move.id)).toBeCloseTo(move.line.lengthM / 14, 9)
        else expect(way.over(move.id)).toBe(Infinity)
      }
      expect(way.along(end, 5)).toBe(0)
      const from = [...net.out.keys()].find((id) => net.out.get(id)!.some((m) => m.to === end))!
      const { lengthM } = net.lanes.get(from)!.line
      // Standing at the place where it is left, it is not left any more.
      expect(way.along(from, lengthM)).toBe(Infinity)
      expect(way.along(from, 0)).toBeLessThan(Infinity)
    }
  })

  it('is the quickest of all there are, round a block of four crossroads with one slow street', () => {
    const street = (x0: number, y0: number, x1: number, y1: number) => ({ points: [[x0, y0, 0], [x1, y1, 0]] as [number, number, number][] }) // prettier-ignore
    const roads: Parameters<typeof withRoads>[0] = {}
    for (const [k, y] of [100, 200].entries()) {
      roads[`w${k}`] = street(20, y, 89, y)
      roads[`m${k}`] = street(111, y, 189, y)
      roads[`e${k}`] = street(211, y, 280, y)
    }
    for (const [k, x] of [100, 200].entries()) {
      roads[`s${k}`] = street(x, 20, x, 89)
      roads[`c${k}`] = street(x, 111, x, 189)
      roads[`n${k}`] = street(x, 211, x, 280)
    }
    let block: Level = withJunctions(withJoins(withRoads(roads)))
    block = changeThings.apply(block, { in: 'roads', changes: { rd_m0: { speedLimitMps: 2 } } }).level
    const all = laneNet(block)
    const end = [...all.lanes.keys()].find((id) => block.routes[id].name === 'e0 ahead 1')!
    const way = wayTo(all, end)
    let led = 0
    for (const move of all.moves.values()) {
      const slow = slowly(all, end, move.id, 7)
      if (slow === Infinity) continue
      led++
      expect(way.over(move.id)).toBeCloseTo(slow, 6)
    }
    expect(led).toBeGreaterThan(10)
    // Round the block is quicker than along the slow street.
    const first = [...all.lanes.keys()].find((id) => block.routes[id].name === 'w0 ahead 1')!
    const options = all.out.get(first)!.map((m) => ({ to: block.routes[m.to].name, s: way.over(m.id) }))
    options.sort((a, b) => a.s - b.s)
    expect(options[0].to).toBe('c0 ahead 1')
  })
})
