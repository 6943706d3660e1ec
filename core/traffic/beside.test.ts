import { describe, expect, it } from 'vitest'
import { withLanes, withRoads } from '@tidytrail/core/testing'
import { endsBeside, laneNet, lanesBeside, mayChange, placeBeside, watchedStretches, wayTo } from '.'

const names = (level: Parameters<typeof laneNet>[0], laneId: string) =>
  (lanesBeside(laneNet(level)).get(laneId) ?? []).map((b) => `${b.side === 1 ? 'left' : 'right'} ${b.id}`)

describe('lanes beside each other', () => {
  it('are those of a road that lead the same way, next to each other only', () => {
    const level = withRoads({ r: { points: [[20, 100, 0], [320, 100, 0]], ahead: 3, back: 2, laneM: 3.25 } }) // prettier-ignore
    const keys = new Map(level.roads.rd_r.lanes.map((l) => [l.laneId!, l.key]))
    const told = [...keys.keys()].map((id) => [
      keys.get(id),
      ...(lanesBeside(laneNet(level)).get(id) ?? [])
        .map((b) => `${b.side === 1 ? 'left' : 'right'} ${keys.get(b.id)}`)
        .sort(),
    ])
    // Driven on the left, the first lane lies by the middle: the second to the left of it.
    expect(told.sort()).toEqual([
      ['a1', 'left a2'],
      ['a2', 'left a3', 'right a1'],
      ['a3', 'right a2'],
      ['b1', 'left b2'],
      ['b2', 'right b1'],
    ])
  })

  it('are told with where each place of the one lies on the other, round a bend as well', () => {
    const round = Array.from({ length: 40 }, (_, k): [number, number, number] => {
      const rad = (k / 39) * 2
      return [200 + 60 * Math.cos(rad), 150 + 60 * Math.sin(rad), 0]
    })
    const out = round.map(([x, y]): [number, number, number] => [
      200 + ((x - 200) * 63) / 60,
      150 + ((y - 150) * 63) / 60,
      0,
    ])
    const level = withLanes({ a: round, b: out })
    const net = laneNet(level)
    const [b] = lanesBeside(net).get('rt_a')!
    expect(b).toMatchObject({ id: 'rt_b', side: -1 })
    expect(b.toM - b.fromM).toBeGreaterThan(0.9 * net.lanes.get('rt_a')!.line.lengthM)
    for (let m = b.fromM; m < b.toM; m += 3.7) {
      const { otherM, apartM } = placeBeside(b, m)!
      expect(Math.abs(otherM - (m * 63) / 60)).toBeLessThan(0.15)
      expect(Math.abs(apartM - 3)).toBeLessThan(0.05)
    }
    expect(placeBeside(b, b.toM + 1)).toBeUndefined()
  })

  it('are none where they lead against each other, lie too far apart, cross, or one lies over the other', () => {
    expect(names(withLanes({ a: [[0, 100, 0], [200, 100, 0]], b: [[200, 103, 0], [0, 103, 0]] }), 'rt_a')).toEqual([]) // prettier-ignore
    expect(names(withLanes({ a: [[0, 100, 0], [200, 100, 0]], b: [[0, 106, 0], [200, 106, 0]] }), 'rt_a')).toEqual([]) // prettier-ignore
    expect(names(withLanes({ a: [[0, 100, 0], [200, 100, 0]], b: [[100, 0, 0], [100, 200, 0]] }), 'rt_a')).toEqual([]) // prettier-ignore
    expect(names(withLanes({ a: [[0, 100, 0], [200, 100, 0]], b: [[0, 103, 6], [200, 103, 6]] }), 'rt_a')).toEqual([]) // prettier-ignore
    expect(names(withLanes({ a: [[0, 100, 0], [200, 100, 0]], b: [[0, 103, 0], [200, 103, 0]] }), 'rt_a')).toEqual(['left rt_b']) // prettier-ignore
  })

  it('may be changed between but where it is said that they may not', () => {
    const level = withLanes({ a: [[0, 100, 0], [200, 100, 0]], b: [[0, 103, 0], [200, 103, 0]] }) // prettier-ignore
    const noChange = [{ fromM: 50, toM: 80, side: 'left' as const }]
    const lane = laneNet({ ...level, routes: { ...level.routes, rt_a: { ...level.routes.rt_a, noChange } } }).lanes.get('rt_a')! // prettier-ignore
    expect(mayChange(lane, 1, 0, 50)).toBe(true)
    expect(mayChange(lane, 1, 0, 51)).toBe(false)
    expect(mayChange(lane, -1, 0, 100)).toBe(true)
    expect(mayChange(lane, 1, 80, 200)).toBe(true)
  })

  it('make one that ends beside them end there, unless it is said to be the end or leads on', () => {
    const lanes = { a: [[0, 100, 0], [120, 100, 0]], b: [[0, 103, 0], [300, 103, 0]] } // prettier-ignore
    const level = withLanes(lanes as never)
    expect(endsBeside(laneNet(level), 'rt_a')).toBe(true)
    expect(endsBeside(laneNet(level), 'rt_b')).toBe(false)
    const said = { ...level, routes: { ...level.routes, rt_a: { ...level.routes.rt_a, atEnd: 'leave' as const } } }
    expect(endsBeside(laneNet(said), 'rt_a')).toBe(false)
  })

  it('are watched as well by those who give way, as far as somebody may still change from them', () => {
    const level = withLanes({ a: [[0, 100, 0], [300, 100, 0]], b: [[0, 103, 0], [300, 103, 0]] }) // prettier-ignore
    const watched = (routes: typeof level.routes) => {
      const net = laneNet({ ...level, routes })
      const { line } = net.lanes.get('rt_a')!
      const way = { id: 'rt_a', isLink: false, from: 'rt_a', to: 'rt_a', fromM: 240, toM: 300, line } as Parameters<typeof watchedStretches>[1] // prettier-ignore
      return watchedStretches(net, way, 10, 80)
    }
    // The conflict lies at 250 m: 80 m of the lane, and of the one beside what lies farther back than one needs to come over.
    const [own, beside] = watched(level.routes)
    expect(own).toMatchObject({ id: 'rt_a', fromM: 170, toM: 250, aheadM: 0 })
    expect(beside).toMatchObject({ id: 'rt_b', fromM: 170, beside: true })
    expect(beside.toM).toBeGreaterThan(229)
    expect(beside.toM).toBeLessThanOrEqual(234)
    expect(beside.aheadM).toBeCloseTo(250 - beside.toM, 6)
    const kept = (fromM: number) => ({ ...level.routes, rt_b: { ...level.routes.rt_b, noChange: [{ fromM, toM: 300, side: 'right' as const }] } }) // prettier-ignore
    expect(watched(kept(200))[1].toM).toBeLessThanOrEqual(200)
    expect(watched(kept(0))).toHaveLength(1)
  })

  it('are part of the way to a lane that only the one beside leads to', () => {
    const level = withLanes({
      in: [[0, 100, 0], [40, 100, 0]],
      a: [[40, 100, 0], [240, 100, 0]],
      b: [[40, 103, 0], [240, 103, 0]],
      out: [[240, 103, 0], [300, 103, 0]],
    }) // prettier-ignore
    const stopped = { ...level.routes.rt_a, stops: { ...level.routes.rt_a.stops, st_a0: { ...level.routes.rt_a.stops.st_a0, waypointId: 'wp_in1' } } } // prettier-ignore
    const out = { ...level.routes.rt_out, stops: { ...level.routes.rt_out.stops, st_out0: { ...level.routes.rt_out.stops.st_out0, waypointId: 'wp_b1' } } } // prettier-ignore
    const joined = { ...level, routes: { ...level.routes, rt_a: stopped, rt_out: out } }
    const net = laneNet(joined)
    expect(wayTo(net, 'rt_out').along('rt_in', 10)).toBeLessThan(40)
    const kept = { ...stopped, noChange: [{ fromM: 0, toM: 500, side: 'both' as const }] }
    const shut = laneNet({ ...joined, routes: { ...joined.routes, rt_a: kept } })
    expect(wayTo(shut, 'rt_out').along('rt_in', 10)).toBe(Infinity)
  })
})
