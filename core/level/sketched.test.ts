import { describe, expect, it } from 'vitest'
import {
  addLinks,
  addNetworkNodes,
  addRoute,
  addThings,
  assertReferences,
  blankLevel,
  changeStops,
  clipOf,
  namesByPattern,
  pasted,
  reshape,
  reshaped,
  sketchedRoutes,
  type Level,
} from '.'

let serial = 0
const newId = (kind: string) =>
  `${({ routes: 'rt', waypoints: 'wp', stops: 'st', links: 'ln' } as Record<string, string>)[kind] ?? 'xx'}_n${serial++}`
const add = (level: Level, things: { in: never; id: string; thing: unknown }[] | ReturnType<typeof sketchedRoutes>) =>
  addThings.apply(level, { things }).level
const triangle = [
  [0, 0, 0],
  [10, 0, 1],
  [0, 10.00049, 2],
]

const laid = (level = blankLevel('Lay')) =>
  add(
    level,
    sketchedRoutes(
      level,
      [
        {
          kind: 'patrol',
          name: 'Beat',
          closed: true,
          places: triangle.map((at, i) => ({ at, name: `P${i}`, pauseS: i })),
        },
      ],
      newId,
    ),
  )

describe('a sketched route', () => {
  it('becomes waypoints and stops, on the millimetre, under a name nobody has', () => {
    const level = laid(laid())
    assertReferences(level)
    const [first, second] = Object.values(level.routes)
    expect([first.name, second.name, first.travel]).toEqual(['Beat', 'Beat 1', 'round'])
    expect(first.order.map((s) => level.waypoints[first.stops[s].waypointId].at)).toEqual([
      [0, 0, 0],
      [10, 0, 1],
      [0, 10, 2],
    ])
    expect(first.order.map((s) => first.stops[s].pause.maxS)).toEqual([0, 1, 2])
  })
})

describe('reshaping', () => {
  it('turns, scales and mirrors places with what faces there, and back again', () => {
    let level = laid()
    const [routeId, route] = Object.entries(level.routes)[0]
    const [stopId] = route.order
    level = changeStops.apply(level, {
      stops: { [routeId]: [stopId] },
      set: { facingRad: 0, look: { fromRad: 0, toRad: 1 } },
    }).level
    const ids = Object.keys(level.waypoints)
    const about = [5, 5] as const
    const quarter = reshape.apply(level, {
      ...reshaped(level, ids, { about: [...about], turnRad: Math.PI / 2, scale: 2 }),
      word: 'Turn',
    }).level
    expect(ids.map((id) => quarter.waypoints[id].at)).toEqual([
      [15, -5, 0],
      [15, 15, 1],
      [-5, -5, 2],
    ])
    expect(quarter.routes[routeId].stops[stopId]).toMatchObject({
      facingRad: 1.570796,
      look: { fromRad: 1.570796, toRad: 2.570796 },
    })
    const mirror = (l: Level) =>
      reshape.apply(l, { ...reshaped(l, ids, { about: [...about], mirror: true }), word: 'Mirror' }).level
    expect(mirror(level).routes[routeId].stops[stopId].look).toEqual({ fromRad: 2.141593, toRad: 3.141593 })
    expect(mirror(mirror(level)).waypoints).toEqual(level.waypoints)
  })
})

it('names by a pattern count up in the places of its marks', () => {
  expect(namesByPattern('Quay ##', 3, 9)).toEqual(['Quay 09', 'Quay 10', 'Quay 11'])
  expect(namesByPattern('Quay', 2)).toEqual(['Quay 1', 'Quay 2'])
})

describe('what is copied', () => {
  it('comes into another level whole, with ids of its own, its links, and without what is not there', () => {
    let level = laid()
    level = addRoute.apply(level, { id: 'rt_net', name: 'Net', kind: 'network' }).level
    const nodes = [0, 1].map((k) => ({ stopId: `st_k${k}`, waypointId: `wp_k${k}`, at: [k, k, 0] }))
    level = addNetworkNodes.apply(level, { routeId: 'rt_net', nodes }).level
    level = addLinks.apply(level, { routeId: 'rt_net', links: [{ id: 'ln_k', fromId: 'wp_k0', toId: 'wp_k1' }] }).level
    level = {
      ...level,
      routes: { ...level.routes, rt_net: { ...level.routes.rt_net, profileIds: ['pf_warden', 'pf_elsewhere'] } },
    }
    const clip = clipOf(level, Object.keys(level.routes))
    const there = blankLevel('There')
    const once = addThings.apply(there, { things: pasted(there, clip, [100, 0], newId) }).level
    assertReferences(once)
    expect(Object.values(once.routes).map((r) => r.name)).toEqual(['Beat', 'Net'])
    expect(
      Object.values(once.waypoints)
        .map((w) => w.at[0])
        .sort((a, b) => a - b),
    ).toEqual([100, 100, 100, 101, 110])
    expect(Object.values(once.links)).toHaveLength(1)
    expect(Object.values(once.routes)[1].profileIds).toEqual(['pf_warden'])
    const twice = addThings.apply(once, { things: pasted(once, clip, [0, 0], newId) }).level
    assertReferences(twice)
    expect(Object.values(twice.routes).map((r) => r.name)).toEqual(['Beat', 'Net', 'Beat 1', 'Net 1'])
  })
})
