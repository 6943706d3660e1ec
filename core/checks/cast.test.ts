import { applyFix, CheckedSurvey } from '.'
import { newStep, newWhen, type LevelInput } from '@tidytrail/core/level'
import { at, box, briefOf, castLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'

const sided = { factionId: 'fc_w' }
const found = (level: ReturnType<typeof castLevel>, check: string) =>
  new CheckedSurvey().update(level).filter((f) => f.check === check)
/** Somebody told by a brief, and what else there is. */
const told = (brief: ReturnType<typeof briefOf>, more: Partial<LevelInput> = {}, spawner: object = {}) =>
  castLevel({
    briefs: { br_a: brief },
    spawners: { sp_a: at(40, 30, { briefId: 'br_a', ...sided, ...spawner }) },
    ...more,
  })
/** The level after the fix of the first finding of a check; there must be one, and it must be gone then. */
function mended(level: ReturnType<typeof castLevel>, check: string) {
  const [first] = found(level, check)
  expect(first?.fix, first?.message).toBeDefined()
  const after = applyFix(level, first.fix!).level
  expect(found(after, check)).toEqual([])
  return { after, message: first.message }
}

describe('a brief is found to dangle', () => {
  it('where a zone of its squad is meant and somebody has no squad with one', () => {
    const { after, message } = mended(told(briefOf([newStep('hold')]), { posts: { ps_a: { name: 'P', at: [10, 10, 0], zoneId: 'zn_w' } } }), 'brief.dangling') // prettier-ignore
    expect(message).toContain('has no squad with a zone')
    expect(after.briefs.br_a.steps.bs_0).toMatchObject({ kind: 'hold', zoneId: 'zn_e' })
    const squads = { sq_a: { name: 'S', zoneId: 'zn_w' } }
    expect(found(told(briefOf([newStep('wander')]), { squads }, { squadId: 'sq_a' }), 'brief.dangling')).toEqual([])
  })

  it('where somebody is to be chased whom nothing says to have been perceived', () => {
    expect(mended(told(briefOf([newStep('chase'), newStep('pause')])), 'brief.dangling').message).toContain(
      'nothing says whom',
    )
    const timed = { when: newWhen('time', 'bw_a'), steps: [newStep('search')] }
    expect(found(told(briefOf([newStep('pause')], [timed])), 'brief.dangling')).toHaveLength(1)
    const seen = { when: newWhen('sees', 'bw_a'), steps: [newStep('search')] }
    expect(found(told(briefOf([newStep('pause')], [seen])), 'brief.dangling')).toEqual([])
  })

  it('where one of several names nothing', () => {
    const one = newStep('follow-route', { routeId: 'rt_a', others: [{ routeId: 'rt_b', weight: 1 }, { routeId: null, weight: 1 }] }) // prettier-ignore
    const { after, message } = mended(told(briefOf([one])), 'brief.dangling')
    expect(message).toContain('one of 3, and number 3 of them is not chosen')
    expect(after.briefs.br_a.steps.bs_0).toMatchObject({ others: [{ routeId: 'rt_b' }] })
  })

  it('where a spawner has not filled in a blank', () => {
    const brief = {
      ...briefOf([newStep('follow-route', { blankId: 'bl_a' })]),
      blanks: [{ id: 'bl_a', name: 'beat', kind: 'route' as const }],
    }
    const { after, message } = mended(told(brief), 'brief.dangling')
    expect(message).toContain('does not say which route “beat” is')
    expect(after.spawners.sp_a.fills).toMatchObject([{ blankId: 'bl_a', routeId: 'rt_b' }])
  })
})

describe('a brief is found to have no way out', () => {
  it('where a step that names nothing is to be tried again, or a signal nobody gives waited for without end', () => {
    mended(told(briefOf([newStep('go-to', { failed: 'again' })])), 'brief.no-way-out')
    const signals = { sg_a: { name: 'Bell' } }
    const waits = newStep('wait-signal', { signalId: 'sg_a', limitS: null })
    expect(mended(told(briefOf([waits]), { signals }), 'brief.no-way-out').message).toContain('a signal nobody gives')
    const gives = { br_b: briefOf([newStep('give-signal', { signalId: 'sg_a' })]) }
    expect(
      found(told(briefOf([waits]), { signals, briefs: { br_a: briefOf([waits]), ...gives } }), 'brief.no-way-out'),
    ).toEqual([])
  })
})

describe('islands nothing joins are found', () => {
  /** A ditch through the level, x between 30 and 32. */
  const wall = { sd_a: box(30, -1, 32, 61, 4, { walkable: false }) }
  const apart = (brief: ReturnType<typeof briefOf>, more: Partial<LevelInput> = {}) => {
    const level = castLevel(
      {
        briefs: { br_a: brief },
        spawners: {
          sp_a: at(10, 30, { briefId: 'br_a', ...sided }),
          sp_c: at(50, 50, { profileId: 'pf_cart', ...sided }),
        },
        ...more,
      },
      wall,
    )
    return found(level, 'reach.islands').map((f) => f.message)
  }

  it('for a place, a post and a vehicle a brief names', () => {
    expect(apart(briefOf([newStep('go-to', { markerId: 'mk_a' })]))[0]).toContain('Bell is on another')
    const posts = { ps_a: { name: 'Post', at: [50, 10, 0] as [number, number, number], zoneId: 'zn_e' } }
    expect(apart(briefOf([newStep('guard', { to: 'post', postId: 'ps_a' })]), { posts })[0]).toContain(
      'Post is on another',
    )
    expect(apart(briefOf([newStep('board', { spawnerId: 'sp_c' })]))[0]).toContain(
      'cannot get to Gate, which it is to board',
    )
    expect(
      apart(briefOf([newStep('go-to', { markerId: 'mk_a' })]), {
        markers: { mk_a: { name: 'Bell', at: [20, 30, 0] } },
      }),
    ).toEqual([])
  })

  it('and not where a passage joins them', () => {
    const passages = {
      pg_a: { name: 'Gate', kind: 'portal' as const, from: [28, 30, 0] as never, to: [34, 30, 0] as never },
    }
    expect(apart(briefOf([newStep('go-to', { markerId: 'mk_a' })]), { passages })).toEqual([])
  })
})

describe('spawners are found', () => {
  it('to wait for each other, and to have no place, each mended by what is plain', () => {
    const ring = castLevel({
      spawners: {
        sp_a: at(10, 10, { begins: 'used-up', triggerSpawnerId: 'sp_b', ...sided }),
        sp_b: at(20, 10, { begins: 'used-up', triggerSpawnerId: 'sp_a', ...sided }),
      },
    })
    expect(found(ring, 'spawner.never').map((f) => f.message)).toEqual([
      expect.stringContaining('those it waits for wait for it'),
      expect.stringContaining('those it waits for wait for it'),
    ])
    for (const more of [
      { where: 'area' },
      { where: 'route' },
      { alive: 'fill', count: 1 },
      { untilS: 1, firstAfterS: 9 },
      { begins: 'entered' },
    ])
      mended(castLevel({ spawners: { sp_a: at(10, 10, { ...sided, ...more }) } }), 'spawner.never')
  })

  it('over a hole, with names of two hundred letters of any language, and with a weight of nought everywhere, to be plain findings or none', () => {
    const name = '夜警🏮עברית'.repeat(40).slice(0, 200)
    const level = castLevel(
      {
        spawners: {
          sp_a: at(30, 30, {
            name,
            ...sided,
            where: 'spots',
            pick: 'random',
            spots: [[31, 30, 0]],
            weights: [0, 0],
            weight: 0,
          }),
        },
      },
      {},
    )
    level.ground.baseM = -50
    const all = new CheckedSurvey().update(level)
    expect(all.some((f) => f.message.includes(name.slice(0, 20)))).toBe(true)
    for (const f of all) expect(Number.isFinite(f.at[0] + f.at[1] + f.at[2])).toBe(true)
  })

  it('two squads on one zone of two posts to be too many, and no more than their turns are for', () => {
    const posts = {
      ps_a: { name: 'P', at: [10, 10, 0] as never, zoneId: 'zn_w' },
      ps_b: { name: 'Q', at: [20, 20, 0] as never, zoneId: 'zn_w' },
    }
    const squads = (count: number) =>
      castLevel({
        posts,
        briefs: { br_a: briefOf([newStep('hold')]) },
        squads: {
          sq_a: { name: 'A', zoneId: 'zn_w', briefId: 'br_a', factionId: 'fc_w' },
          sq_b: { name: 'B', zoneId: 'zn_w', briefId: 'br_a', factionId: 'fc_w' },
        },
        spawners: {
          sp_a: at(10, 30, { squadId: 'sq_a', count, everyS: 3 }),
          sp_b: at(20, 30, { squadId: 'sq_b', count, everyS: 3 }),
        },
      })
    expect(found(squads(3), 'zone.crowded')).toEqual([])
    expect(mended(squads(5), 'zone.crowded').message).toContain('10 agents of 2 spawners')
  })
})
