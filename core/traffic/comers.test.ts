import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addLinks, levelSchema, type Level } from '@tidytrail/core/level'
import { WAGON, withLanes } from '@tidytrail/core/testing'
import { comersOf, laneNet } from '.'

const LANES = 6
const PROFILES = ['pf_a', 'pf_b'] as const

/** Lanes far apart, joined anyhow, some for one body only, with a stream of a mix onto some and somebody told to follow one. */
const nets = fc
  .record({
    links: fc.uniqueArray(fc.tuple(fc.nat(LANES - 1), fc.nat(LANES - 1)), {
      maxLength: 9,
      selector: ([a, b]) => `${a} ${b}`,
    }),
    only: fc.array(fc.option(fc.constantFrom(...PROFILES)), { minLength: LANES, maxLength: LANES }),
    onto: fc.uniqueArray(fc.nat(LANES - 1), { maxLength: 2 }),
    mix: fc.boolean(),
    told: fc.option(fc.nat(LANES - 1)),
  })
  .map(({ links, only, onto, mix, told }) => {
    const lanes = Object.fromEntries(
      Array.from({ length: LANES }, (_, k): [string, [number, number, number][]] => [
        `l${k}`,
        [
          [10, 20 + 40 * k, 0],
          [60, 20 + 40 * k, 0],
        ],
      ]),
    )
    const bare = withLanes(lanes)
    const routes = Object.fromEntries(
      Object.entries(bare.routes).map(([id, r], k) => [id, { ...r, profileIds: only[k] ? [only[k]] : [] }]),
    )
    const stream = {
      name: 'Stream',
      at: [0, 0, 0],
      where: 'lanes',
      laneIds: onto.map((k) => `rt_l${k}`),
      profileId: 'pf_a',
      mix: mix ? [{ profileId: 'pf_b', weight: 1 }] : [],
    }
    const level = levelSchema.parse({
      ...bare,
      routes,
      profiles: { pf_a: WAGON, pf_b: { ...WAGON, name: 'Other' } },
      spawners: { sp_a: stream },
    })
    const made = links.map(([a, b], k) => ({ id: `ln_${k}`, fromId: `wp_l${a}1`, toId: `wp_l${b}0`, twoWay: false }))
    return { level: addLinks.apply(level, { links: made }).level, told }
  })

/** The same by going over all links until nothing is new. */
function slowly(level: Level, told: ReadonlyMap<string, readonly string[]>): Map<string, Set<string>> {
  const comes = new Map(Object.keys(level.routes).map((id) => [id, new Set<string>()]))
  const may = (id: string, p: string) => {
    const { profileIds } = level.routes[id]
    return profileIds.length === 0 || profileIds.includes(p)
  }
  const put = (id: string, p: string) => {
    if (!may(id, p) || comes.get(id)!.has(p)) return false
    comes.get(id)!.add(p)
    return true
  }
  const { laneIds, profileId, mix } = level.spawners.sp_a
  for (const id of laneIds) for (const p of [profileId!, ...mix.map((m) => m.profileId!)]) put(id, p)
  for (const [id, of] of told) for (const p of of) put(id, p)
  for (let news = true; news;) {
    news = false
    for (const { fromId, toId } of Object.values(level.links)) {
      const [from, to] = [fromId, toId].map((w) => `rt_${w.slice(3, -1)}`)
      for (const p of comes.get(from)!) if (put(to, p)) news = true
    }
  }
  return comes
}

describe('those who may come along lanes', () => {
  it('are those of streams and those told to, wherever joined lanes that admit them lead', () => {
    fc.assert(
      fc.property(nets, ({ level, told }) => {
        const followed = new Map(told === null ? [] : [[`rt_l${told}`, ['pf_b']]])
        const comers = comersOf(laneNet(level), level.spawners, followed)
        for (const [id, expected] of slowly(level, followed))
          expect([...(comers.get(id) ?? [])].sort(), id).toEqual([...expected].sort())
      }),
      { numRuns: 200, seed: 16 },
    )
  })

  it('of streams change to the lane beside, and those told to follow one do not', () => {
    const beside = withLanes({
      a: [[10, 50, 0], [150, 50, 0]], b: [[10, 53, 0], [150, 53, 0]] }) // prettier-ignore
    const stream = levelSchema.parse({
      ...beside,
      profiles: { pf_a: WAGON },
      spawners: { sp_a: { name: 'S', at: [0, 0, 0], where: 'lanes', laneIds: ['rt_a'], profileId: 'pf_a' } },
    })
    const of = (level: Level, told: [string, string[]][]) => [...comersOf(laneNet(level), level.spawners, new Map(told)).keys()].sort() // prettier-ignore
    expect(of(stream, [])).toEqual(['rt_a', 'rt_b'])
    expect(of({ ...stream, spawners: {} }, [['rt_a', ['pf_a']]])).toEqual(['rt_a'])
  })
})
