import { stillMoment } from '../map/still-moment'
import { levelSchema, type Stop } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import type { AgentMoment } from '../stores/rehearsal'
import { viewOfThing } from '../map/zoom-wish'
import { walkedLength } from './route/measures'
import { facingWords, pauseWords } from './route/stop-words'
import { stateWords, stopName } from '../sheet/verdict-words'

const level = levelSchema.parse({
  format: 'tidytrail-level',
  version: 1,
  name: 'Words',
  settings: { extent: { minX: 0, minY: 0, maxX: 60, maxY: 40 } },
  solids: { sd_a: { shape: 'box', name: 'A', at: [40, 20], sizeX: 10, sizeY: 4, baseM: 0, heightM: 1 } },
  waypoints: { wp_a: { name: 'Gate', at: [10, 10, 0] }, wp_b: { at: [20, 10, 0] } },
  routes: {
    rt_a: {
      name: 'A',
      stops: { st_a: { waypointId: 'wp_a', pause: { minS: 2, maxS: 6 } }, st_b: { waypointId: 'wp_b' } },
      order: ['st_a', 'st_b'],
    },
  },
  spawners: { sp_a: { name: 'S', at: [5, 5, 0], profileId: null } },
})

describe('words for stops', () => {
  it('tell pauses and facings', () => {
    const pause = (minS: number, maxS: number) => pauseWords({ pause: { minS, maxS } } as Stop)
    expect([pause(0, 0), pause(4, 4), pause(3, 6)]).toEqual(['–', '4 s', '3–6 s'])
    expect([null, 0, Math.PI / 2, -Math.PI / 2, Math.PI, -3.1, 0.8].map(facingWords)).toEqual([
      '–',
      'E',
      'N',
      'S',
      'W',
      'W',
      'NE',
    ])
    expect([stopName(level, 'rt_a', 0), stopName(level, 'rt_a', 1), stopName(level, null, 2)]).toEqual([
      '1, Gate',
      '2',
      '3',
    ])
  })
})

describe('words for agents', () => {
  it('tell what one is doing', () => {
    const words = (more: Partial<AgentMoment>) => stateWords(level, stillMoment(more))
    expect(stateWords(level, undefined)).toBe('has left')
    expect(words({ state: undefined })).toBe('has left')
    expect(words({ fromStop: -1, toStop: 0 })).toBe('on its way to stop 1, Gate')
    expect(words({})).toBe('leg 1 to 2')
    expect(words({ state: 'pausing', toStop: 0 })).toBe('pausing at 1, Gate')
    expect(words({ state: 'blocked' })).toBe('cannot go on')
    expect(words({ state: 'done' })).toBe('finished its brief')
  })
})

describe('measures of a route', () => {
  it('count what can be walked', () => {
    const paths = [
      { found: true as const, line: [], uses: [], lengthM: 10 },
      { found: false as const, why: 'apart' as const, stopsAt: null },
      { found: true as const, line: [], uses: [], lengthM: 4 },
    ]
    expect(walkedLength(paths)).toBe(14)
  })
})

describe('zooming', () => {
  it('knows where each kind of thing is', () => {
    expect(viewOfThing(level, 'sd_a')).toEqual({ minX: 27, minY: 10, maxX: 53, maxY: 30 })
    expect(viewOfThing(level, 'rt_a')).toEqual({ minX: 2, minY: 2, maxX: 28, maxY: 18 })
    expect(viewOfThing(level, 'st_b')).toMatchObject({ minX: 4, maxX: 36 })
    expect(viewOfThing(level, 'sp_a')).toMatchObject({ minX: -11, maxX: 21 })
    expect(viewOfThing(level, 'nobody')).toBeUndefined()
  })
})
