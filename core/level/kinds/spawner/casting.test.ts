import { at, briefOf, castLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { briefIdOf, briefIdsOf, factionIdOf, movedThing, newStep, newWhen, readLevel, removeThings } from '../..'

const level = castLevel({
  briefs: {
    br_a: briefOf(
      [
        newStep('follow-route', { routeId: 'rt_a', others: [{ routeId: 'rt_b', weight: 2 }] }),
        newStep('wander', { zoneId: 'zn_e' }),
      ],
      [{ when: newWhen('zone-entered', 'bw_a', { zoneId: 'zn_w' }), steps: [newStep('pause')] }],
    ),
    br_b: briefOf([newStep('pause')]),
  },
  squads: { sq_a: { name: 'S', factionId: 'fc_w', briefId: 'br_a', zoneId: 'zn_w' } },
  spawners: {
    sp_a: at(10, 10, {
      squadId: 'sq_a',
      mix: [{ briefId: 'br_b', factionId: 'fc_n' }],
      triggerSpawnerId: 'sp_b',
      begins: 'left',
    }),
    sp_b: at(20, 10, { squadId: 'sq_a', briefId: 'br_b', factionId: 'fc_f', where: 'spots', spots: [[1, 2, 3], [4, 5, 6]], weights: [1, 2, 3] }), // prettier-ignore
  },
})
const without = (...ids: string[]) => removeThings.apply(level, { ids }).level

describe('what somebody is told', () => {
  it('is the word of their spawner before that of their squad', () => {
    const { sp_a, sp_b } = level.spawners
    expect([briefIdOf(level, sp_a), briefIdOf(level, sp_b)]).toEqual(['br_a', 'br_b'])
    expect([factionIdOf(level, sp_a), factionIdOf(level, sp_b)]).toEqual(['fc_w', 'fc_f'])
    expect(briefIdsOf(level, sp_a)).toEqual(['br_a', 'br_b'])
  })

  it('loses what is deleted, wherever it is named, and is a level still', () => {
    const left = without('rt_b', 'zn_w', 'br_b', 'fc_n', 'sp_b')
    expect(left.briefs.br_a.steps.bs_0).toMatchObject({ routeId: 'rt_a', others: [{ routeId: null, weight: 2 }] })
    expect(left.briefs.br_a.whens[0]).toMatchObject({ zoneId: null })
    expect(left.squads.sq_a).toMatchObject({ zoneId: null, briefId: 'br_a' })
    expect(left.spawners.sp_a).toMatchObject({ mix: [{ briefId: null, factionId: null }], triggerSpawnerId: null })
    expect(readLevel(JSON.parse(JSON.stringify(left)))).toEqual(left)
    // And all of it comes back as it was.
    const gone = removeThings.apply(level, { ids: ['sq_a', 'br_a'] })
    expect(gone.level.spawners.sp_a.squadId).toBeNull()
  })

  it('is moved and mirrored with its spots in their order, so that their weights stay with them', () => {
    const { sp_b } = level.spawners
    const moved = movedThing('spawners', sp_b, { turnRad: 0, mirror: true, dx: 10, dy: 1, dz: 0 })!
    expect(moved.spots).toEqual([
      [9, 3, 3],
      [6, 6, 6],
    ])
    expect(moved.weights).toEqual([1, 2, 3])
    const circle = {
      ...level.zones.zn_w,
      shape: 'circle' as const,
      ring: [
        [1, 1],
        [3, 1],
      ] as [number, number][],
    }
    // The middle of a circle stays its middle.
    expect(movedThing('zones', circle, { turnRad: 0, mirror: true, dx: 0, dy: 0, dz: 0 })!.ring).toEqual([
      [-1, 1],
      [-3, 1],
    ])
  })
})
