import { levelSchema } from '@tidytrail/core/level'
import { expect, it } from 'vitest'
import { KIND_HITS } from '../kinds'
import { bareScene } from './bare-scene'
import { BASE_HITS } from './base-hits'
import { hitAt, type HitKind } from './hit'
import type { MapScene } from './scene'
import { toScreenX, toScreenY, type Viewport } from './viewport'

const view: Viewport = { x: 30, y: 20, scale: 10, width: 600, height: 400 }
const level = levelSchema.parse({
  format: 'tidytrail-level',
  version: 1,
  name: 'Hits',
  settings: { extent: { minX: 0, minY: 0, maxX: 60, maxY: 40 } },
  solids: {
    sd_low: { shape: 'box', name: 'Low', at: [40, 20], sizeX: 10, sizeY: 10, baseM: 0, heightM: 1 },
    sd_high: { shape: 'box', name: 'High', at: [40, 20], sizeX: 4, sizeY: 4, baseM: 0, heightM: 5 },
    sd_locked: { shape: 'box', name: 'Locked', at: [55, 35], sizeX: 4, sizeY: 4, baseM: 0, heightM: 5, locked: true },
  },
  waypoints: { wp_a: { at: [10, 10, 0] }, wp_b: { at: [20, 10, 0] }, wp_c: { at: [20, 20, 0] } },
  routes: {
    rt_a: {
      name: 'A',
      travel: 'round',
      stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' }, st_c: { waypointId: 'wp_c' } },
      order: ['st_a', 'st_b', 'st_c'],
    },
    rt_b: { name: 'B', stops: { st_d: { waypointId: 'wp_b' }, st_e: { waypointId: 'wp_c' } }, order: ['st_d', 'st_e'] },
  },
  spawners: {
    sp_a: { name: 'S', at: [10, 11, 0], profileId: null },
    sp_b: { name: 'T', at: [40, 20, 0], profileId: null },
  },
})
const TESTS = [...KIND_HITS, ...BASE_HITS].sort((a, b) => a.order - b.order)
const scene = (more: Partial<MapScene> = {}) => bareScene(level, more)
const at = (x: number, y: number, more: Partial<MapScene> = {}, kinds?: readonly HitKind[]) =>
  hitAt(TESTS, scene(more), view, toScreenX(view, x), toScreenY(view, y), kinds)

it('finds stops before spawners, spawners before legs, legs before solids', () => {
  expect(at(10, 10.2)).toMatchObject({ kind: 'stop', id: 'st_a', routeId: 'rt_a', waypointId: 'wp_a' })
  expect(at(10, 11.4)).toMatchObject({ kind: 'thing', in: 'spawners', id: 'sp_a' })
  expect(at(15, 10.3)).toEqual({ kind: 'leg', id: 'rt_a', leg: 0 })
  expect(at(43, 23)).toEqual({ kind: 'thing', in: 'solids', id: 'sd_low' })
  expect(at(2, 38)).toBeUndefined()
})

it('finds the closing leg of a round, and the way a leg really takes', () => {
  expect(at(15, 15)).toEqual({ kind: 'leg', id: 'rt_a', leg: 2 })
  const found = {
    found: true as const,
    lengthM: 20,
    uses: [],
    line: [
      [10, 10, 0],
      [10, 30, 0],
      [20, 10, 0],
    ] as const,
  }
  const paths = new Map([['rt_a', { profileId: 'pf', climbM: 0, paths: [found] }]])
  expect(at(10, 25, { paths })).toEqual({ kind: 'leg', id: 'rt_a', leg: 0 })
})

it('prefers the route that is chosen where two share a place', () => {
  expect(at(20, 10, { chosenRoutes: new Set(['rt_b']) })).toMatchObject({ id: 'st_d' })
  expect(at(20, 10, { chosenRoutes: new Set(['rt_a']) })).toMatchObject({ id: 'st_b' })
})

it('finds the highest of solids that lie one over the other, and none that are locked', () => {
  expect(at(41, 21, {}, ['solids'])).toEqual({ kind: 'thing', in: 'solids', id: 'sd_high' })
  expect(at(55, 35)).toBeUndefined()
})

it('finds nothing that is hidden, by kind or by itself', () => {
  expect(at(10, 10, { isShown: (layer) => !['routes', 'spawners'].includes(layer) })).toBeUndefined()
  const hidden = { ...level, routes: { ...level.routes, rt_a: { ...level.routes.rt_a, hidden: true } } }
  expect(at(15, 10.3, { level: hidden })).toBeUndefined()
})

it('finds agents and findings above all else', () => {
  const finding = {
    check: 'c',
    severity: 'blocker' as const,
    stage: 'routes' as const,
    subjects: ['wp_a'],
    at: [9, 9, 0] as const,
    message: 'm',
  }
  expect(at(10, 10, { agents: [{ id: 'a1', x: 10.3, y: 10 }] })).toEqual({ kind: 'agent', id: 'a1' })
  expect(
    hitAt(TESTS, scene({ findings: [finding] }), view, toScreenX(view, 9) + 13, toScreenY(view, 9) - 13),
  ).toMatchObject({
    kind: 'finding',
    id: 'wp_a',
  })
  // Where several share a sign all of them are found, also by the tab that says how many more there are.
  const others = ['wp_b', 'wp_c'].map((id) => ({ ...finding, subjects: [id], at: [9.05, 9, 0] as const }))
  const findings = [finding, ...others]
  for (const right of [13, 34])
    expect(hitAt(TESTS, scene({ findings }), view, toScreenX(view, 9) + right, toScreenY(view, 9) - 13)).toEqual({
      kind: 'finding',
      id: 'wp_a',
      findings,
    })
})
