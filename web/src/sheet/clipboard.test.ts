import { clipOf, readLevel, blankLevel } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { clipFrom, clipWords } from './clipboard'

const level = readLevel({
  ...blankLevel('Copied'),
  markers: { mk_a: { name: 'Bell', at: [0, 0, 0] }, mk_b: { name: 'Well', at: [5, 0, 0] } },
  waypoints: { wp_a: { at: [0, 0, 0] }, wp_b: { at: [9, 0, 0] } },
  routes: {
    rt_a: {
      name: 'Beat',
      stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
      order: ['st_a', 'st_b'],
    },
  },
})
const clip = clipOf(level, ['rt_a', 'mk_a', 'mk_b'])
const text = (change: (clip: Record<string, Record<string, never>>) => void = () => {}) => {
  const copy = JSON.parse(JSON.stringify(clip)) as { format: string; things: Record<string, Record<string, never>> }
  change(copy.things)
  return JSON.stringify(copy)
}

describe('a text on the clipboard', () => {
  it('that is a clip comes back as it was, and is told by what is in it', () => {
    expect(clipFrom(text())).toEqual(clip)
    expect(clipWords(clip)).toBe('1 route and 2 markers')
  })

  it.each(['', 'x, y\n1, 2', '{"format":"other"}', '[1,2,3]'])('that is something else is none: %j', (other) => {
    expect(clipFrom(other)).toBeUndefined()
  })

  it.each<[string, string, string]>([
    ['cut off', text().slice(0, -20), 'cannot be read'],
    [
      'with a waypoint of two numbers',
      text((t) => Object.assign(t.waypoints.wp_a, { at: [1, 2] })),
      'things.waypoints.wp_a.at',
    ],
    ['with a key of its own', text((t) => Object.assign(t.markers.mk_a, { script: 'x' })), 'things.markers.mk_a'],
    [
      'without a waypoint its route stops at',
      text((t) => void delete t.waypoints.wp_b),
      'names wp_b, which is not in it',
    ],
    ['whose order leaves out a stop', text((t) => Object.assign(t.routes.rt_a, { order: ['st_a'] })), 'st_b'],
  ])('%s is refused, saying where', (_what, hostile, where) => {
    expect(clipFrom(hostile)).toContain(where)
  })

  it('may hold kinds this program does not know; they are left out', () => {
    const read = clipFrom(text((t) => Object.assign(t, { lanterns: { la_a: {} } })))
    expect(read).toEqual(clip)
  })

  it('cannot reach a prototype', () => {
    const hostile = text().replace('"markers":', '"__proto__":{"polluted":1},"markers":')
    clipFrom(hostile)
    expect(({} as { polluted?: number }).polluted).toBeUndefined()
  })
})
