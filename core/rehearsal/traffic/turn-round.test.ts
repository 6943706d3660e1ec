import { addLinks, blankLevel, changeThings, type Level } from '@tidytrail/core/level'
import { collisionsIn, driven, framesOf, withRoads, withStreams } from '@tidytrail/core/testing'
import { laneNet, turnsRoundInto } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'

const RADIUS_M = 8

/** A road with a turning circle at its far end; those who come back leave. */
function deadEnd(perH: number): Level {
  const bare = { ...blankLevel('Dead end', 160, 100), profiles: {} }
  const level = withRoads({ a: { points: [[10, 50, 0], [110, 50, 0]], speedLimitMps: 10 } }, bare) // prettier-ignore
  const [out, back] = ['a1', 'b1'].map((key) => level.roads.rd_a.lanes.find((l) => l.key === key)!.laneId!)
  const net = laneNet(level)
  expect(turnsRoundInto(net, out)!.id).toBe(back)
  const link = { id: 'ln_t', fromId: net.lanes.get(out)!.endId, toId: net.lanes.get(back)!.startId, twoWay: false, turnM: RADIUS_M } // prettier-ignore
  const round = addLinks.apply(level, { links: [link] }).level
  const leaving = changeThings.apply(round, { in: 'routes', changes: { [back]: { atEnd: 'leave' } } }).level
  return withStreams(leaving, { laneIds: [out], perH, warm: false }, { turnM: 6, gaits: { drive: 10 } })
}

describe('a turning circle at the end of a road', () => {
  const run = driven(deadEnd(400), 300)
  const frames = framesOf(run)

  it('takes everybody round it and back, one after the other', () => {
    const left = run.engine.events.list.filter((e) => e.kind === 'left')
    expect(left.length).toBeGreaterThan(20)
    expect(collisionsIn(run)).toEqual([])
  })

  it('is gone round on its line, nowhere more tightly than it is wide', () => {
    const ways = new Map<number, [number, number][]>()
    for (const rows of frames)
      for (const r of rows) if (r.x > 112) ways.set(r.key, [...(ways.get(r.key) ?? []), [r.x, r.y]])
    expect(ways.size).toBeGreaterThan(20)
    const furthest = [...ways.values()].map((way) => Math.max(...way.map(([x]) => x)))
    // Three arcs that touch each other: the middle of the long one lies ahead of the lanes' ends by their height.
    const net = laneNet(run.engine.scenario.level)
    const { line } = net.moves.get('ln_t')!
    const apart = Math.abs(line.places[0][1] - line.places.at(-1)![1])
    const middle = 110 + Math.sqrt((2 * RADIUS_M) ** 2 - (RADIUS_M + apart / 2) ** 2)
    for (const far of furthest.slice(0, -3)) expect(Math.abs(far - (middle + RADIUS_M))).toBeLessThan(0.15)
    for (const way of ways.values())
      for (const [x, y] of way) if (x > middle + 2) expect(Math.abs(Math.hypot(x - middle, y - 50) - RADIUS_M)).toBeLessThan(0.1) // prettier-ignore
  })
})
