import { blankLevel, readLevel, ZONE_PURPOSES, type Level } from '@tidytrail/core/level'
import { describe, expect, it, vi } from 'vitest'
import { bareScene } from '../map/bare-scene'
import { recordingPen } from '../map/recording-pen'
import { allOf } from '../map/sliced'
import type { MapScene } from '../map/scene'
import { toScreenX, toScreenY, type Viewport } from '../map/viewport'
import { KIND_PAINTERS } from '.'

/** A path that writes down its own lines, as the canvas of a browser would take it. */
vi.stubGlobal(
  'Path2D',
  class {
    readonly calls: [string, ...number[]][] = []
    moveTo = (...a: number[]) => void this.calls.push(['moveTo', ...a])
    lineTo = (...a: number[]) => void this.calls.push(['lineTo', ...a])
    closePath = () => void this.calls.push(['closePath'])
    addPath = (path: { calls: [string, ...number[]][] }) => void this.calls.push(...path.calls)
  },
)

const view: Viewport = { x: 60, y: 40, scale: 8, width: 900, height: 600 }
const at = ([x, y]: readonly number[]) => [toScreenX(view, x), toScreenY(view, y)]
const level = (): Level =>
  readLevel({
    ...blankLevel('Drawn'),
    waypoints: { wp_a: { at: [20, 20, 0] }, wp_b: { at: [80, 20, 0] }, wp_c: { at: [80, 60, 0] } },
    links: { ln_a: { fromId: 'wp_b', toId: 'wp_c', twoWay: false } },
    routes: {
      rt_a: {
        name: 'Beat',
        stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
      },
    },
    passages: { pg_a: { name: 'Gate', kind: 'door', from: [30, 30, 0], to: [40, 30, 0] } },
    posts: { ps_a: { name: 'Stand', at: [50, 50, 0] } },
    markers: { mk_a: { name: 'Bell', at: [60, 50, 0] } },
    spawners: {
      sp_a: { name: 'Gatehouse', at: [25, 60, 0], profileId: null, count: 3 },
      sp_far: { name: 'Far', at: [5000, 60, 0], profileId: null },
    },
    zones: {
      zn_a: {
        name: 'Square',
        ring: [
          [10, 10],
          [15, 10],
          [15, 15],
        ],
      },
    },
  })
const scene = (more: Partial<MapScene> = {}) => bareScene(level(), more)

/** What the painters of a layer draw. */
function drawn(layer: string, more: Partial<MapScene> = {}) {
  const { pen, marks, words, all } = recordingPen(view)
  const painters = KIND_PAINTERS.filter((p) => p.layer === layer && p.on === 'over').sort((a, b) => a.order - b.order)
  for (const painter of painters) allOf(painter.draw(pen, scene(more)))
  return { marks, words, all }
}
const near = (places: readonly (readonly number[])[], wanted: readonly number[]) =>
  places.some(([x, y]) => Math.hypot(x - wanted[0], y - wanted[1]) < 1)

describe('on the map', () => {
  it('stops are drawn at their places with their numbers, and the line from one to the next', () => {
    const { marks, words } = drawn('routes')
    expect(near(marks('arc'), at([20, 20]))).toBe(true)
    expect(near(marks('arc'), at([80, 20]))).toBe(true)
    expect(words()).toEqual(expect.arrayContaining(['1', '2']))
    expect(near(marks('moveTo'), at([20, 20]))).toBe(true)
    expect(near(marks('lineTo'), at([80, 20]))).toBe(true)
  })

  it('a path that was found is drawn as it runs, not as the crow flies', () => {
    const line = [
      [20, 20, 0],
      [50, 45, 0],
      [80, 20, 0],
    ] as const
    const paths = new Map([
      ['rt_a', { profileId: 'pf_warden', climbM: 0, paths: [{ found: true as const, lengthM: 80, line, uses: [] }] }],
    ])
    expect(near(drawn('routes', { paths }).marks('lineTo'), at([50, 45]))).toBe(true)
    expect(near(drawn('routes').marks('lineTo'), at([50, 45]))).toBe(false)
  })

  it('a route that is hidden is not drawn at all', () => {
    const shown = level()
    const hidden = { ...shown, links: {}, routes: { rt_a: { ...shown.routes.rt_a, hidden: true } } }
    const { words, marks } = drawn('routes', { level: hidden })
    expect(words()).toEqual([])
    expect(near(marks('arc'), at([20, 20]))).toBe(false)
  })

  it('of very many routes only the chosen one has numbers, and of very many spawners it has a doorway', () => {
    // A canvas of its own for the small stops that are copied.
    const dot = { getContext: () => recordingPen(view).pen.c, width: 9, height: 9 }
    vi.stubGlobal('document', { createElement: () => dot })
    const base = level()
    const many = <T>(thing: T, n: number) => Object.fromEntries(Array.from({ length: n }, (_, k) => [`x_${k}`, thing]))
    const routes = { ...base.routes, ...many(base.routes.rt_a, 300) }
    const spawners = { ...base.spawners, ...many(base.spawners.sp_a, 500) }
    const crowded = { ...base, links: {}, routes, spawners }
    expect(drawn('routes', { level: crowded }).words()).toEqual([])
    expect(drawn('routes', { level: crowded }).marks('drawImage')).toHaveLength(602)
    const chosen = { level: crowded, chosen: new Set(['rt_a']), chosenRoutes: new Set(['rt_a']) }
    expect(drawn('routes', chosen).words()).toEqual(['1', '2'])
    expect(drawn('spawners', { level: crowded }).marks('fillRect')).toHaveLength(501)
    expect(drawn('spawners', { level: crowded, hovered: 'sp_a' }).marks('translate')).toEqual([at([25, 60])])
    vi.stubGlobal('document', undefined)
  })

  it('spawners stand where they are with their number, and those out of the window are left out', () => {
    const { marks, words } = drawn('spawners')
    expect(marks('translate')).toEqual([at([25, 60])])
    expect(words()).toEqual(['×3'])
  })

  it('passages swing between their ends, chosen ones in another ink and with rings to drag', () => {
    const plain = drawn('passages')
    expect(plain.marks('moveTo')).toContainEqual(at([30, 30]))
    expect(plain.marks('quadraticCurveTo')[0].slice(2)).toEqual(at([40, 30]))
    expect(plain.all.every((m) => m.stroke !== 'rust')).toBe(true)
    const chosen = drawn('passages', { chosen: new Set(['pg_a']) })
    expect(chosen.all.some((m) => m.call === 'stroke' && m.stroke === 'rust')).toBe(true)
    expect(chosen.marks('arc').length).toBeGreaterThan(plain.marks('arc').length)
  })

  it('posts, markers and zones are drawn at their places, under their names', () => {
    const { marks, words } = drawn('places')
    expect(near(marks('translate'), at([50, 50]))).toBe(true)
    expect(near(marks('arc'), at([60, 50]))).toBe(true)
    expect(near(marks('lineTo'), at([15, 15]))).toBe(true)
    // One is named once there is room for its name; a post only from near, or when it is chosen.
    expect(words()).toEqual(expect.arrayContaining(['Bell']))
    expect(words()).not.toContain('Stand')
    const chosen = drawn('places', { chosen: new Set(['ps_a', 'zn_a']) })
    expect(chosen.words()).toContain('Stand')
    expect(chosen.all.some((m) => m.call === 'fill' && m.stroke === 'rust')).toBe(true)
  })

  it('zones are told apart by the stroke of their border, whatever their shape', () => {
    const base = level()
    const zone = base.zones.zn_a
    const strokes = (more: Partial<typeof zone>) => {
      const { all } = drawn('places', {
        level: { ...base, posts: {}, markers: {}, zones: { zn_a: { ...zone, ...more } } },
      })
      return all.filter((m) => m.call === 'stroke').length
    }
    const square: (typeof zone)['ring'] = [
      [10, 10],
      [40, 10],
      [40, 40],
      [10, 40],
    ]
    const counts = ZONE_PURPOSES.map((purpose) => strokes({ purpose, ring: square, name: '' }))
    // Dotted and double are one line and two; the others have marks along it.
    expect(counts.slice(0, 2)).toEqual([1, 2])
    for (const n of counts.slice(2)) expect(n).toBeGreaterThan(20)
    const circle = {
      shape: 'circle' as const,
      ring: [
        [30, 30],
        [40, 30],
      ] as (typeof zone)['ring'],
      name: '',
    }
    expect(strokes(circle)).toBe(1)
    expect(strokes({ shape: 'band', ring: [], routeId: 'rt_a', widthM: 4, name: '' })).toBe(2)
    expect(strokes({ shape: 'band', ring: [], routeId: null, name: '' })).toBe(0)
  })
})
