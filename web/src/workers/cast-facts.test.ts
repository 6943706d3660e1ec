import { describe, expect, it } from 'vitest'
import { newStep } from '@tidytrail/core/level'
import { Survey } from '@tidytrail/core/survey'
import { at, box, briefOf, castLevel } from '@tidytrail/core/testing'
import { castFacts, profileInZone } from './cast-facts'

describe('what is known of the cast before anything runs', () => {
  const level = castLevel(
    {
      briefs: { br_a: briefOf([newStep('wander', { zoneId: 'zn_e' })]) },
      spawners: {
        sp_a: at(40, 30, { briefId: 'br_a', profileId: 'pf_cart' }),
        sp_b: at(40, 20, { where: 'area', zoneId: 'zn_w', count: 3 }),
        sp_c: at(40, 10, { profileId: null }),
      },
    },
    { sd_a: box(5, 5, 15, 25, 3, { walkable: false }) },
  )
  const survey = new Survey()
  survey.update(level)
  const facts = castFacts(level, survey.plannerFor, 1)

  it('is told of every spawner that has a body', () => {
    expect(Object.keys(facts.spawners)).toEqual(['sp_a', 'sp_b'])
    expect(facts.spawners.sp_b.places.length).toBeGreaterThan(20)
    for (const { at: [x] } of facts.spawners.sp_b.places) expect(x).toBeGreaterThan(15) // prettier-ignore
    expect(facts.spawners.sp_b.arrivals).toEqual([0, 2, 4])
  })

  it('is told of every zone, as far as those who are to be in it can reach it', () => {
    expect([profileInZone(level, 'zn_e'), profileInZone(level, 'zn_w')]).toEqual(['pf_cart', 'pf_warden'])
    expect(facts.zones.zn_e).toMatchObject({ profileId: 'pf_cart', share: 1 })
    // Half of the western yard is a block.
    expect(Math.abs(facts.zones.zn_w.share - 0.5)).toBeLessThan(0.04)
  })

  it('of a level without anybody is nothing but its zones', () => {
    const bare = castFacts({ ...level, spawners: {} }, survey.plannerFor, 1)
    expect(bare.spawners).toEqual({})
    expect(Object.keys(bare.zones)).toEqual(['zn_w', 'zn_e'])
  })
})
