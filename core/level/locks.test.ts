import { describe, expect, it } from 'vitest'
import { smallLevel } from '@tidytrail/core/testing'
import { lockedBy } from './locks'
import { setThings } from './edits'
import type { Level } from './schema'

const level = smallLevel()
const [routeId] = Object.keys(level.routes)
const { order, stops } = level.routes[routeId]
const wp = stops[order[0]].waypointId
const locked: Level = { ...level, routes: { ...level.routes, [routeId]: { ...level.routes[routeId], locked: true } } }

describe('what is locked', () => {
  it('is the thing a patch would change or take out, and nothing else', () => {
    const rename = [{ op: 'replace' as const, path: `/routes/${routeId}/name`, value: 'Other' }]
    expect(lockedBy(level, rename)).toBeUndefined()
    expect(lockedBy(locked, rename)).toEqual({ in: 'routes', id: routeId })
    expect(lockedBy(locked, [{ op: 'remove', path: `/routes/${routeId}` }])).toEqual({ in: 'routes', id: routeId })
    expect(lockedBy(locked, [{ op: 'replace', path: '/name', value: 'A' }])).toBeUndefined()
  })

  it('may be unlocked and hidden', () => {
    const set = (values: object) =>
      setThings.apply(locked, { things: [{ in: 'routes', id: routeId, set: values }] }).patch
    expect(lockedBy(locked, set({ locked: false }))).toBeUndefined()
    expect(lockedBy(locked, set({ hidden: true }))).toBeUndefined()
    expect(lockedBy(locked, set({ name: 'Other', hidden: true }))).toEqual({ in: 'routes', id: routeId })
  })

  it('holds the waypoints of a route where they are, whoever shares them', () => {
    const move = [{ op: 'replace' as const, path: `/waypoints/${wp}/at/0`, value: 1 }]
    expect(lockedBy(level, move)).toBeUndefined()
    expect(lockedBy(locked, move)).toEqual({ in: 'routes', id: routeId })
  })
})
