import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyPatch,
  assertReferences,
  COLLECTIONS,
  collectionOf,
  readLevel,
  references,
  removeThings,
  WARDEN,
  blankLevel,
  type Level,
} from '.'

/** A level in which much refers to much: routes that share waypoints, a network, cast, doors, lanes and markers. */
const tangled = (): Level => {
  const waypoints = Object.fromEntries(
    Array.from({ length: 8 }, (_, k) => [`wp_${k}`, { at: [k * 5, 0, 0], markerId: k % 3 === 0 ? 'mk_a' : null }]),
  )
  const stops = (...at: number[]) => ({
    stops: Object.fromEntries(at.map((k, i) => [`st_${at.join('')}${i}`, { waypointId: `wp_${k}` }])),
    order: at.map((_, i) => `st_${at.join('')}${i}`),
  })
  const ring = [
    [0, 0],
    [9, 0],
    [9, 9],
  ]
  return readLevel({
    ...blankLevel('Tangled'),
    profiles: { pf_a: WARDEN, pf_b: { ...WARDEN, name: 'Porter' } },
    markers: { mk_a: { name: 'Bell', at: [0, 0, 0] } },
    waypoints,
    links: {
      ln_a: { fromId: 'wp_4', toId: 'wp_5' },
      ln_b: { fromId: 'wp_5', toId: 'wp_6' },
      ln_c: { fromId: 'wp_6', toId: 'wp_7' },
    },
    routes: {
      rt_a: { name: 'A', ...stops(0, 1, 2), profileIds: ['pf_b'] },
      rt_b: { name: 'B', ...stops(2, 3) },
      rt_n: { name: 'N', kind: 'network', ...stops(4, 5, 6), linkIds: ['ln_a', 'ln_b'] },
    },
    junctions: { jn_a: { name: 'Cross', ring, laneIds: ['rt_a', 'rt_b'] } },
    zones: { zn_a: { name: 'Yard', ring } },
    posts: { ps_a: { name: 'Post', at: [1, 1, 0], zoneId: 'zn_a' } },
    factions: { fc_a: { name: 'Reds', hostileTo: ['fc_b'] }, fc_b: { name: 'Blues', hostileTo: ['fc_a'] } },
    briefs: { br_a: { name: 'Walk', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
    spawners: { sp_a: { name: 'Gate', at: [0, 0, 0], profileId: 'pf_a', factionId: 'fc_a', briefId: 'br_a' } },
    passages: { pg_a: { name: 'Door', kind: 'door', from: [0, 0, 0], to: [2, 0, 0], profileIds: ['pf_a', 'pf_b'] } },
    covers: { cv_a: { name: 'Planks', kind: 'road', ring, profileIds: ['pf_b'] } },
  })
}
const ALL = COLLECTIONS.flatMap((c) => Object.keys(tangled()[c]))

/** The slow way: takes things out one reference at a time until nothing leads nowhere. */
function slowly(level: Level, ids: readonly string[]): Set<string> {
  const gone = new Set(ids.filter((id) => collectionOf(level, id)))
  const names = (from: string, to: string) => {
    const at = collectionOf(level, from)!
    return references(level).some((r) => r.at.startsWith(`${at}.${from}.`) && r.id === to && r.in !== 'stops')
  }
  const routes = ids.filter((id) => level.routes[id])
  for (let more = true; more;) {
    more = false
    for (const [id, l] of Object.entries(level.links))
      if (!gone.has(id) && (gone.has(l.fromId) || gone.has(l.toId))) more = !!gone.add(id)
    // What only a deleted route used goes with it.
    for (const route of routes)
      for (const id of [...Object.keys(level.links), ...Object.keys(level.waypoints)]) {
        if (gone.has(id) || !owns(level, route, id)) continue
        const users = [...Object.keys(level.routes), ...Object.keys(level.links)].filter((u) => names(u, id))
        if (users.every((u) => gone.has(u))) more = !!gone.add(id)
      }
  }
  return gone
}
const owns = (level: Level, routeId: string, id: string) =>
  level.routes[routeId].linkIds.includes(id) ||
  Object.values(level.routes[routeId].stops).some((s) => s.waypointId === id)

describe('deleting things', () => {
  it('takes the same along as the slow way, leaves nothing that leads nowhere, and can be undone', () => {
    fc.assert(
      fc.property(fc.subarray(ALL, { minLength: 1, maxLength: 4 }), (ids) => {
        const before = tangled()
        const { level, patch, inverse } = removeThings.apply(before, { ids })
        assertReferences(level)
        expect(ALL.filter((id) => !collectionOf(level, id)).sort()).toEqual([...slowly(before, ids)].sort())
        expect(applyPatch(before, patch)).toEqual(level)
        expect(applyPatch(level, inverse)).toEqual(before)
      }),
      { numRuns: 200 },
    )
  })

  it('keeps waypoints another route or a link still uses, and those it did not own', () => {
    const { level } = removeThings.apply(tangled(), { ids: ['rt_a'] })
    expect(Object.keys(level.waypoints)).toEqual(['wp_2', 'wp_3', 'wp_4', 'wp_5', 'wp_6', 'wp_7'])
    expect(level.briefs.br_a.steps.bs_a).toMatchObject({ routeId: null })
    expect(level.junctions.jn_a.laneIds).toEqual(['rt_b'])
  })

  it('takes the links of a network with it, but not one that leads out of it', () => {
    const { level } = removeThings.apply(tangled(), { ids: ['rt_n'] })
    expect(Object.keys(level.links)).toEqual(['ln_c'])
    expect(Object.keys(level.waypoints)).toContain('wp_6')
    expect(Object.keys(level.waypoints)).not.toContain('wp_5')
  })

  it('takes a stop out of the middle of its order, and says no more than that', () => {
    const { level, patch } = removeThings.apply(tangled(), { ids: ['wp_1'] })
    expect(level.routes.rt_a.order).toEqual(['st_0120', 'st_0122'])
    expect(patch).toEqual([
      { op: 'remove', path: '/routes/rt_a/stops/st_0121' },
      { op: 'remove', path: '/routes/rt_a/order/1' },
      { op: 'remove', path: '/waypoints/wp_1' },
    ])
  })

  it('passes over ids that are not there', () => {
    expect(removeThings.apply(tangled(), { ids: ['wp_none', 'nonsense'] }).patch).toEqual([])
  })
})
