import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { factionSchema, freshFaction, newStances, stanceOf, STANCES } from '../..'

const faction = (hostileTo: string[] = [], friendlyTo: string[] = []) =>
  factionSchema.parse({ name: 'F', hostileTo, friendlyTo })

describe('how factions stand to each other', () => {
  it('is hostile as soon as one is, and friendly or neutral otherwise', () => {
    const all = { fc_a: faction(['fc_b']), fc_b: faction([], ['fc_a', 'fc_c']), fc_c: faction() }
    expect(stanceOf(all, 'fc_a', 'fc_b')).toBe('hostile')
    expect(stanceOf(all, 'fc_b', 'fc_a')).toBe('hostile')
    expect(stanceOf(all, 'fc_c', 'fc_b')).toBe('friendly')
    expect(stanceOf(all, 'fc_a', 'fc_c')).toBe('neutral')
    expect(stanceOf(all, 'fc_a', 'fc_a')).toBe('friendly')
    expect(stanceOf({ fc_a: faction(['fc_a']) }, 'fc_a', 'fc_a')).toBe('hostile')
    expect(stanceOf(all, null, 'fc_a')).toBe('neutral')
    expect(stanceOf(all, 'fc_gone', 'fc_a')).toBe('neutral')
  })

  it('is, once it is set, what was set, seen from either side', () => {
    const ids = ['fc_a', 'fc_b', 'fc_c']
    const pick = fc.constantFrom(...ids)
    fc.assert(
      fc.property(fc.array(fc.tuple(pick, pick, fc.constantFrom(...STANCES)), { maxLength: 12 }), (sets) => {
        let all = Object.fromEntries(ids.map((id) => [id, faction()]))
        const wanted = new Map<string, string>()
        for (const [a, b, stance] of sets) {
          if (a === b) continue
          const lists = newStances(all, a, b, stance)
          all = { ...all, [a]: { ...all[a], ...lists[a] }, [b]: { ...all[b], ...lists[b] } }
          wanted.set([a, b].sort().join(), stance)
        }
        for (const [pair, stance] of wanted) {
          const [a, b] = pair.split(',')
          expect([stanceOf(all, a, b), stanceOf(all, b, a)]).toEqual([stance, stance])
        }
      }),
    )
  })

  it('a new one looks like none of the others and has a name of its own', () => {
    const all: Record<string, ReturnType<typeof faction>> = {}
    for (let k = 0; k < 20; k++) all[`fc_${k}`] = factionSchema.parse(freshFaction(all))
    const list = Object.values(all)
    expect(new Set(list.map((f) => f.name)).size).toBe(20)
    expect(new Set(list.map((f) => `${f.ink} ${f.pattern}`)).size).toBe(20)
    // The first few differ in both, so that neither colour nor pattern alone has to be told apart.
    expect(new Set(list.slice(0, 4).map((f) => f.pattern)).size).toBe(4)
    expect(new Set(list.slice(0, 4).map((f) => f.ink)).size).toBe(4)
  })
})
