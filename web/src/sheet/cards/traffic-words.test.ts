import { LIMITS } from '@tidytrail/core/rehearsal'
import { changeThings } from '@tidytrail/core/level'
import { crossroads } from '@tidytrail/core/testing'
import { laneNet, usualPhases } from '@tidytrail/core/traffic'
import { describe, expect, it } from 'vitest'
import { trafficWords } from './traffic-words'

const bare = crossroads()
const level = changeThings.apply(bare, {
  in: 'junctions',
  changes: {
    jn_0: {
      control: 'signals' as const,
      phases: usualPhases(bare, laneNet(bare), { ...bare.junctions.jn_0, control: 'signals' }),
    },
  },
}).level
const limit = (name: (typeof LIMITS)[number]) => LIMITS.indexOf(name)

describe('why a vehicle does what it does', () => {
  it('is the gap to who is in front, and how fast that is', () => {
    const other = { at: [112, 100, 0] as const, mps: 4.2, apartM: 2 }
    const held = { at: [100, 100, 0] as const, routeId: null, limit: limit('queue'), t: 0, other }
    expect(trafficWords(level, held)).toBe('10.0 m behind, which does 4.2 m/s')
    expect(trafficWords(level, { ...held, other: { ...other, mps: 0 } })).toBe('10.0 m behind, which stands')
    expect(trafficWords(level, { ...held, limit: limit('give-way') })).toBe('12.0 m away, which does 4.2 m/s')
  })

  it('is the stage its signal is in, and when it will be green', () => {
    const { phases } = level.junctions.jn_0
    const net = laneNet(level)
    // An approach that has no green in the first stage.
    const red = [...net.out.entries()].find(([, out]) => out.every((w) => !phases[0].linkIds.includes(w.id)))![0]
    const stop = net.lanes.get(red)!.line.places.at(-1)!
    const words = trafficWords(level, { at: stop, routeId: red, limit: limit('signal'), t: 4 })
    const [{ greenS, amberS, allRedS }] = phases
    expect(words).toBe(`Junction 1: stage 1 of ${phases.length}, green in ${greenS + amberS + allRedS - 4} s`)
    expect(trafficWords(level, { at: stop, routeId: null, limit: limit('signal'), t: 4 })).toBe('')
  })

  it('is nothing more where traffic has nothing to do with it', () => {
    expect(trafficWords(level, { at: [0, 0, 0], routeId: null, limit: limit('corner'), t: 0 })).toBe('')
  })
})
