import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addLinks,
  addNetworkNodes,
  addRoute,
  addStop,
  applyPatch,
  assertReferences,
  blankLevel,
  changeStops,
  changeThings,
  cutLinks,
  extractStops,
  haltSchema,
  joinRoutes,
  mergeWaypoints,
  orderStops,
  removeStops,
  removeThings,
  retargetStop,
  separateWaypoint,
  setTravel,
  splitRoute,
  swapStops,
  turnLink,
  turnStart,
  type EditResult,
  type Level,
} from '..'

/** Three patrols that share a waypoint, and a network of six nodes. */
function start(): Level {
  let level = blankLevel('Graph')
  for (const r of ['a', 'b', 'c']) {
    level = addRoute.apply(level, { id: `rt_${r}`, name: r, kind: 'patrol' }).level
    for (const k of [1, 2, 3, 4]) {
      const waypointId = k === 2 ? 'wp_shared' : `wp_${r}${k}`
      const at = k === 2 && r !== 'a' ? undefined : [k * 5, r.charCodeAt(0), 0]
      level = addStop.apply(level, { routeId: `rt_${r}`, stopId: `st_${r}${k}`, waypointId, at }).level
    }
  }
  level = addRoute.apply(level, { id: 'rt_n', name: 'Net', kind: 'network' }).level
  const nodes = [0, 1, 2, 3, 4, 5].map((k) => ({ stopId: `st_n${k}`, waypointId: `wp_n${k}`, at: [k, k * k, 0] }))
  return addNetworkNodes.apply(level, { routeId: 'rt_n', nodes }).level
}

function sound(level: Level): void {
  assertReferences(level)
  for (const link of Object.values(level.links)) expect(link.fromId).not.toBe(link.toId)
  for (const route of Object.values(level.routes)) {
    if (route.kind !== 'network') continue
    const nodes = Object.values(route.stops).map((s) => s.waypointId)
    expect(new Set(nodes).size).toBe(nodes.length)
    for (const l of route.linkIds) {
      expect(nodes).toContain(level.links[l].fromId)
      expect(nodes).toContain(level.links[l].toId)
    }
  }
}

const pick = (keys: readonly string[], n: number) => (keys.length === 0 ? 'none' : keys[n % keys.length])

function apply(level: Level, [what, a, b, c]: number[], n: number): EditResult {
  const routeId = pick(
    Object.keys(level.routes).filter((r) => level.routes[r].kind !== 'network'),
    a,
  )
  const otherId = pick(
    Object.keys(level.routes).filter((r) => level.routes[r].kind !== 'network'),
    b,
  )
  const order = level.routes[routeId]?.order ?? []
  const stopId = pick(order, b)
  const waypointId = pick(Object.keys(level.waypoints), b)
  const another = pick(Object.keys(level.waypoints), c)
  const linkId = pick(Object.keys(level.links), c)
  const nodes = level.routes.rt_n?.order.map((s) => level.routes.rt_n.stops[s].waypointId) ?? []
  switch (what) {
    case 0:
      return splitRoute.apply(level, { routeId, stopId, newRouteId: `rt_x${n}`, newStopId: `st_x${n}`, newName: 'x' })
    case 1:
      return joinRoutes.apply(level, { routeId, otherId, reverse: c % 2 === 0, reverseOther: c % 3 === 0 })
    case 2:
      return extractStops.apply(level, {
        routeId,
        stopIds: [stopId, pick(order, c)],
        newRouteId: `rt_e${n}`,
        newName: 'e',
      })
    case 3:
      return turnStart.apply(level, { routeId, stopId })
    case 4:
      return orderStops.apply(level, { routeId, stopIds: [stopId, pick(order, c), 'st_none'], from: c % 4 })
    case 5:
      return swapStops.apply(level, { routeId, stopIds: [stopId, pick(order, c)] })
    case 6: {
      const stops = Object.values(level.routes).flatMap((r) =>
        r.order.filter((s) => r.stops[s].waypointId === waypointId),
      )
      const newIds = Object.fromEntries(stops.slice(c % 2).map((s, i) => [s, `wp_s${n}x${i}`]))
      return separateWaypoint.apply(level, { waypointId, newIds })
    }
    case 7:
      return mergeWaypoints.apply(level, { waypointIds: [...new Set([waypointId, another, pick(nodes, a)])] })
    case 8:
      return addLinks.apply(level, {
        routeId: 'rt_n',
        links: [
          { id: `ln_${n}`, fromId: pick(nodes, b), toId: pick(nodes, c), twoWay: a % 2 === 0 },
          { id: `ln_${n}b`, fromId: waypointId, toId: another },
        ],
        stopIds: { [waypointId]: `st_l${n}`, [another]: `st_m${n}` },
      })
    case 9:
      return cutLinks.apply(level, { ids: [linkId] })
    case 10:
      return turnLink.apply(level, { id: linkId })
    case 11:
      return retargetStop.apply(level, { routeId, stopId, waypointId })
    case 12:
      return removeStops.apply(level, {
        routeId: a % 2 ? routeId : 'rt_n',
        stopIds: [a % 2 ? stopId : pick(level.routes.rt_n?.order ?? [], b)],
      })
    case 13:
      return setTravel.apply(level, { routeId, travel: c % 2 ? 'round' : 'one-way' })
    default:
      return removeThings.apply(level, { ids: [pick([waypointId, linkId, routeId], c)] })
  }
}

describe('the waypoint graph', () => {
  it('stays sound under any sequence of edits, and every one can be undone', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(14), fc.nat(99), fc.nat(99), fc.nat(99)), { maxLength: 40 }), (steps) => {
        let level = start()
        steps.forEach((s, n) => {
          const { level: next, inverse } = apply(level, s, n)
          sound(next)
          expect(applyPatch(next, inverse)).toEqual(level)
          level = next
        })
      }),
      { numRuns: 200 },
    )
  })

  it('loses no stop when stops are only put in another order', () => {
    fc.assert(
      fc.property(fc.constantFrom(3, 4, 5), fc.nat(99), fc.nat(99), fc.nat(99), (what, a, b, c) => {
        const level = start()
        const next = apply(level, [what, a, b, c], 0).level
        for (const id in level.routes) {
          expect([...next.routes[id].order].sort()).toEqual([...level.routes[id].order].sort())
          expect(next.routes[id].stops).toEqual(level.routes[id].stops)
        }
      }),
    )
  })
})

describe('stops', () => {
  it('are set each by what it is, and those that are gone are passed over', () => {
    const level = changeStops.apply(start(), {
      stops: { rt_a: ['st_a1', 'st_gone'], rt_gone: ['st_a2'] },
      set: ({ pause }) => ({ pause: { minS: 3, maxS: pause.maxS + 4 } }),
    }).level
    expect(level.routes.rt_a.stops.st_a1.pause).toEqual({ minS: 3, maxS: 4 })
    expect(level.routes.rt_a.stops.st_a2).toEqual(start().routes.rt_a.stops.st_a2)
  })
})

describe('a route', () => {
  it('split and joined again is what it was', () => {
    let level = start()
    level = changeStops.apply(level, { stops: { rt_a: ['st_a3'] }, set: { pause: { minS: 2, maxS: 4 } } }).level
    const args = { routeId: 'rt_a', stopId: 'st_a3', newRouteId: 'rt_x', newStopId: 'st_x', newName: 'x' }
    const split = splitRoute.apply(level, args).level
    expect([split.routes.rt_a.order, split.routes.rt_x.order]).toEqual([
      ['st_a1', 'st_a2', 'st_a3'],
      ['st_x', 'st_a4'],
    ])
    expect(joinRoutes.apply(split, { routeId: 'rt_a', otherId: 'rt_x' }).level).toEqual(level)
  })

  it('split keeps its platforms and parking where they are, and is one again with them', () => {
    const halt = (fromM: number, toM: number) => haltSchema.parse({ where: 'left', fromM, toM })
    const before = start()
    const lengthM = (order: readonly string[]) => order.slice(1).reduce((sum, id, k) => {
      const [a, b] = [order[k], id].map((s) => before.waypoints[before.routes.rt_a.stops[s].waypointId].at)
      return sum + Math.hypot(b[0] - a[0], b[1] - a[1])
    }, 0) // prettier-ignore
    const cutM = lengthM(before.routes.rt_a.order.slice(0, 3))
    const halts = [halt(0, 0.5), halt(cutM - 0.4, cutM + 0.3), halt(cutM + 0.5, cutM + 0.75)]
    const level = changeThings.apply(before, { in: 'routes', changes: { rt_a: { halts } } }).level
    const args = { routeId: 'rt_a', stopId: 'st_a3', newRouteId: 'rt_x', newStopId: 'st_x', newName: 'x' }
    const split = splitRoute.apply(level, args).level
    const spans = (id: string) => split.routes[id].halts.map((h) => [h.fromM, h.toM].map((m) => Math.round(m * 100) / 100)) // prettier-ignore
    expect(spans('rt_a')).toEqual([[0, 0.5], [cutM - 0.4, cutM].map((m) => Math.round(m * 100) / 100)]) // prettier-ignore
    expect(spans('rt_x')).toEqual([[0, 0.3], [0.5, 0.75]]) // prettier-ignore
    const again = joinRoutes.apply(split, { routeId: 'rt_a', otherId: 'rt_x' }).level
    expect(again.routes.rt_a.halts).toHaveLength(3)
    again.routes.rt_a.halts.forEach((h, k) => {
      expect(h.fromM).toBeCloseTo(halts[k].fromM, 9)
      expect(h.toM).toBeCloseTo(halts[k].toM, 9)
    })
    // More than a lane may have is not joined.
    const full = changeThings.apply(split, { in: 'routes', changes: { rt_x: { halts: Array.from({ length: 50 }, () => halt(0, 1)) } } }).level // prettier-ignore
    expect(joinRoutes.apply(full, { routeId: 'rt_a', otherId: 'rt_x' }).level).toEqual(full)
  })

  it('that is a round opens where it is split, and closes again when joined to itself', () => {
    const round = setTravel.apply(start(), { routeId: 'rt_a', travel: 'round' }).level
    const args = { routeId: 'rt_a', stopId: 'st_a1', newRouteId: 'rt_x', newStopId: 'st_x', newName: 'x' }
    const open = splitRoute.apply(round, args).level
    expect(open.routes.rt_a).toMatchObject({ travel: 'one-way', order: ['st_a1', 'st_a2', 'st_a3', 'st_a4', 'st_x'] })
    expect(joinRoutes.apply(open, { routeId: 'rt_a', otherId: 'rt_a' }).level).toEqual(round)
  })

  it('that loses stops to a new one heals over the gap', () => {
    const level = extractStops.apply(start(), {
      routeId: 'rt_a',
      stopIds: ['st_a3', 'st_a2'],
      newRouteId: 'rt_x',
      newName: 'Taken out',
    }).level
    expect([level.routes.rt_a.order, level.routes.rt_x.order]).toEqual([
      ['st_a1', 'st_a4'],
      ['st_a2', 'st_a3'],
    ])
  })

  it('deleted takes its own links along, and leaves those of others', () => {
    let level = addLinks.apply(start(), {
      routeId: 'rt_n',
      links: [{ id: 'ln_own', fromId: 'wp_n0', toId: 'wp_n1' }],
    }).level
    level = addLinks.apply(level, { links: [{ id: 'ln_free', fromId: 'wp_n2', toId: 'wp_a1' }] }).level
    level = removeThings.apply(level, { ids: ['rt_n'] }).level
    expect(Object.keys(level.links)).toEqual(['ln_free'])
    expect(Object.keys(level.waypoints).filter((w) => w.startsWith('wp_n'))).toEqual(['wp_n2'])
  })
})

describe('a shared waypoint', () => {
  it('is separated into one for each stop, and merged again', () => {
    const level = separateWaypoint.apply(start(), {
      waypointId: 'wp_shared',
      newIds: { st_b2: 'wp_b2', st_c2: 'wp_c2' },
    }).level
    const of = (l: Level) => ['a', 'b', 'c'].map((r) => l.routes[`rt_${r}`].stops[`st_${r}2`].waypointId)
    expect(of(level)).toEqual(['wp_shared', 'wp_b2', 'wp_c2'])
    expect(level.waypoints.wp_b2.at).toEqual(level.waypoints.wp_shared.at)
    const merged = mergeWaypoints.apply(level, { waypointIds: ['wp_shared', 'wp_b2', 'wp_c2'] }).level
    expect(merged).toEqual(start())
  })
})

describe('a link', () => {
  it('joins a waypoint to another once, never to itself, and both ways when the way back is added', () => {
    const link = (level: Level, id: string, fromId: string, toId: string) =>
      addLinks.apply(level, { links: [{ id, fromId, toId, twoWay: false }], routeId: 'rt_n' }).level
    let level = link(start(), 'ln_a', 'wp_n0', 'wp_n1')
    level = link(level, 'ln_b', 'wp_n0', 'wp_n1')
    level = link(level, 'ln_c', 'wp_n2', 'wp_n2')
    expect(level.links).toMatchObject({ ln_a: { twoWay: false } })
    level = link(level, 'ln_d', 'wp_n1', 'wp_n0')
    expect(level.links).toEqual({ ln_a: expect.objectContaining({ fromId: 'wp_n0', twoWay: true }) })
  })
})
