import { levelSchema, blankLevel, LevelError } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { faultWords, placeLine, valueWords } from './place-words'

const level = levelSchema.parse({
  ...blankLevel('Words'),
  waypoints: { wp_a: { name: 'North post', at: [1, 2, 0] }, wp_b: { at: [3, 4, 0] } },
  routes: { rt_a: { name: 'Round', stops: { st_a: { waypointId: 'wp_a' } }, order: ['st_a'] } },
})

describe('places in words', () => {
  it.each([
    ['/waypoints/wp_a/at/0', 'North post, east'],
    ['/waypoints/wp_a/at', 'North post, place'],
    ['/waypoints/wp_b', 'Waypoint'],
    ['/waypoints/wp_gone/at', 'A waypoint that is gone, place'],
    ['/routes/rt_a/stops/st_a/pause/minS', 'Stop 1 of Round, pause, shortest'],
    ['/routes/rt_a/speedLimitMps', 'Round, speed limit'],
    ['/routes/rt_a/order', 'Round, order'],
    ['/profiles/pf_warden/maxSlopeRad', 'Warden, max slope'],
    ['/settings/gridM', 'The level, grid'],
    ['/name', 'The level, name'],
  ])('%s is %s', (path, words) => expect(placeLine(level, path)).toBe(words))

  it.each<[string, unknown, string]>([
    ['/settings/gridM', 1.5, '1.5 m'],
    ['/routes/rt_a/speedLimitMps', 2, '2 m/s'],
    ['/waypoints/wp_a/at', [1, 2.345, 0], '1, 2.35, 0 m'],
    ['/waypoints/wp_a', undefined, 'deleted'],
    ['/links/ln_a/fromId', 'wp_a', 'North post'],
    ['/note', '', 'empty'],
    ['/note', 'x'.repeat(100), `“${'x'.repeat(59)}…”`],
    ['/routes/rt_a/order', ['a', 'b', 'c', 'd'], '4 entries'],
    ['/routes/rt_b', { name: 'New round' }, '“New round”'],
    ['/routes/rt_a/locked', true, 'yes'],
    ['/routes/rt_a/colour', null, 'none'],
  ])('at %s %j is %s', (path, value, words) => expect(valueWords(level, path, value)).toBe(words))

  it('a fault is one sentence', () => {
    const fault = new LevelError('not-valid', '', 'may be at most 100,000', ['waypoints', 'wp_a', 'at', '0'])
    expect(faultWords(level, fault)).toBe('North post: east may be at most 100,000.')
    expect(faultWords(level, new LevelError('not-valid', '', 'is empty', ['name']))).toBe('The level: name is empty.')
  })
})
