import { describe, expect, it, vi } from 'vitest'
import { z } from 'zod'

/** A kind of thing the program does not have: a lantern on a hook, lit by somebody, over an outline that it lights. */
const lantern = await vi.hoisted(async () => {
  const { bearing, DEGREES, field, id, kept, METRES, name, PLACE, point3, positive, restriction, ring } =
    await import('../fields')
  const { defineKind, RESTRICTS } = await import('./kind')
  const { z } = await import('zod')
  return defineKind({
    in: 'lanterns',
    prefix: 'la',
    word: 'lantern',
    schema: z.strictObject({
      name,
      at: field(point3, PLACE),
      ring,
      facingRad: field(bearing.default(0), { ...DEGREES, label: 'shines' }),
      reachM: field(positive.max(60).default(8), { ...METRES, label: 'lights up to' }),
      markerId: field(id.nullable().default(null), { label: 'hangs at', none: 'nowhere' }),
      wicks: z.record(id, z.strictObject({ routeId: id })),
      order: z.array(id),
      ...restriction,
      ...kept,
    }),
    parts: { in: 'wicks', prefix: 'wk', word: 'wick' },
    refs: [
      { path: 'markerId', to: 'markers', onLost: 'clear' },
      { path: 'wicks.*.routeId', to: 'routes', onLost: 'delete' },
      RESTRICTS,
    ],
    stands: true,
  })
})
vi.mock('./list', async (original) => {
  const { KINDS } = await original<typeof import('./list')>()
  return { KINDS: [...KINDS, lantern] }
})

const level = await import('..')
const { outlineOf, settlePlan } = await import('@tidytrail/core/ground')
const { CHECKS } = await import('@tidytrail/core/checks')
type Collection = import('..').Collection

const LANTERNS = 'lanterns' as Collection
interface Lantern {
  name: string
  at: number[]
  ring: number[][]
  facingRad: number
  markerId: string | null
  wicks: Record<string, { routeId: string }>
  order: string[]
  profileIds: string[]
  nobody: boolean
}

const made = level.readLevel({
  ...level.blankLevel('Lit'),
  markers: { mk_hook: { name: 'Hook', at: [1, 2, 0] } },
  routes: { rt_a: { name: 'Beat', stops: {}, order: [] }, rt_b: { name: 'Other', stops: {}, order: [] } },
  lanterns: {
    la_a: {
      name: 'Lamp',
      at: [10, 20, 5],
      ring: [
        [8, 18],
        [12, 18],
        [12, 24],
      ],
      markerId: 'mk_hook',
      wicks: { wk_a: { routeId: 'rt_a' }, wk_b: { routeId: 'rt_b' } },
      order: ['wk_a', 'wk_b'],
      profileIds: ['pf_warden'],
    },
  },
} as never)
const lanterns = (l: typeof made) => (l as unknown as Record<string, Record<string, Lantern>>).lanterns
const lamp = lanterns(made).la_a

describe('a kind of thing that is one folder and one line in a list', () => {
  it('is part of the level: read, refused where it is wrong, written, and given ids', () => {
    expect(lamp.facingRad).toBe(0)
    expect(level.readLevelText(level.writeLevelText(made))).toEqual(made)
    const wrong = { ...made, lanterns: { la_a: { ...lamp, at: [1, 2] } } }
    expect(() => level.readLevel(wrong)).toThrow('lanterns.la_a.at')
    expect(level.newId(LANTERNS as never, () => 0)).toMatch(/^la_/)
    expect(level.newId('wicks' as never, () => 0)).toMatch(/^wk_/)
    expect(z.toJSONSchema(level.levelSchema, { io: 'input', unrepresentable: 'any' }).properties).toHaveProperty(
      LANTERNS,
    )
  })

  it('may name only what is there, and keeps its parts in order', () => {
    const naming = (set: object) => () => level.readLevel({ ...made, lanterns: { la_a: { ...lamp, ...set } } })
    expect(naming({ markerId: 'mk_none' })).toThrow('not among the markers')
    expect(naming({ order: ['wk_a'] })).toThrow('exactly once among the wicks')
  })

  it('does what it says with what is deleted', () => {
    const without = (...ids: string[]) => lanterns(level.removeThings.apply(made, { ids }).level).la_a
    expect(without('mk_hook')).toMatchObject({ markerId: null })
    expect(without('rt_a')).toMatchObject({ wicks: { wk_b: { routeId: 'rt_b' } }, order: ['wk_b'] })
    expect(without('pf_warden')).toMatchObject({ profileIds: [], nobody: true })
    expect(without('la_a')).toBeUndefined()
    const { level: gone, inverse } = level.removeThings.apply(made, { ids: ['mk_hook', 'rt_a', 'rt_b', 'pf_warden'] })
    expect(level.applyPatch(gone, inverse)).toEqual(made)
  })

  it('is moved, turned and mirrored with its outline and direction', () => {
    const moved = level.movedThing(LANTERNS, lamp, level.shift(1, 2, 3))!
    expect(moved).toMatchObject({
      at: [11, 22, 8],
      ring: [
        [9, 20],
        [13, 20],
        [13, 26],
      ],
    })
    const mirrored = level.movedThing(LANTERNS, lamp, level.mirrorIn('upright', 10, 0))!
    expect(mirrored.at).toEqual([10, 20, 5])
    expect(Math.abs(mirrored.facingRad)).toBeCloseTo(Math.PI, 5)
    const around = level.movedThing(LANTERNS, lamp, level.turnAbout(10, 20, Math.PI / 2))!
    expect(around.facingRad).toBeCloseTo(Math.PI / 2, 5)
  })

  it('is copied, and pasted into another level with ids of its own, without what is not there', () => {
    let n = 0
    const newId = () => `zz_${++n}`
    const [copy] = level.copiesOf(made, ['la_a'], [level.shift(5, 0)], newId)
    expect(copy).toMatchObject({ in: LANTERNS, thing: { at: [15, 20, 5] } })
    const clip = level.readClip(JSON.parse(JSON.stringify(level.clipOf(made, ['la_a']))))
    const there = level.readLevel({ ...level.blankLevel('There'), routes: { rt_b: made.routes.rt_b } })
    const after = level.addThings.apply(there, { things: level.pasted(there, clip, [0, 0], newId) }).level
    level.assertReferences(after)
    const [pasted] = Object.values(lanterns(after))
    expect(pasted).toMatchObject({ markerId: null, profileIds: ['pf_warden'] })
    expect(Object.values(pasted.wicks)).toEqual([{ routeId: 'rt_b' }])
    expect(pasted.order).toEqual(Object.keys(pasted.wicks))
  })

  it('has a place on the map, an outline, and settles on the floor', () => {
    expect(level.placeKey(LANTERNS)).toBe('at')
    expect(outlineOf(made, 'la_a')).toHaveLength(4)
    expect(settlePlan(made, ['la_a'])).toMatchObject([{ id: 'la_a', to: [10, 20, 0] }])
    expect(level.movePlaces.apply(made, { places: { la_a: [1, 1, 1] } }).patch).toEqual([
      { op: 'replace', path: '/lanterns/la_a/at', value: [1, 1, 1] },
    ])
  })

  it('has fields for a card, with labels, limits and what it refers to', () => {
    const fields = level.fieldsOf(LANTERNS, lamp)
    expect(fields.map((f) => f.label)).toEqual([
      'east',
      'north',
      'height',
      'shines',
      'lights up to',
      'hangs at',
      'note',
    ])
    expect(fields[4]).toMatchObject({ as: 'number', max: 60, unit: 'm' })
    expect(fields[5]).toMatchObject({ as: 'thing', to: 'markers', none: 'nowhere' })
    expect(level.isRestricted(LANTERNS)).toBe(true)
  })

  it('is told of by name and kind, and looked after by the checks that look at all kinds', () => {
    expect(level.nameOf(made, 'la_a')).toBe('Lamp')
    expect(level.addThing.label(made, { in: LANTERNS, id: 'la_b', thing: lamp } as never)).toBe('Add a lantern')
    const each = CHECKS.filter((c) => c.each === LANTERNS).map((c) => c.id)
    expect(each.sort()).toEqual(['ground.outside-extent', 'reach.restriction-empty'])
  })

  it('is kept by the ledger of the server, which counts who refers to what', () => {
    const ledger = new level.Ledger(structuredClone(made))
    expect(() => ledger.apply([{ op: 'remove', path: '/markers/mk_hook' }])).toThrow('not among the markers')
    ledger.apply([
      { op: 'replace', path: '/lanterns/la_a/markerId', value: null },
      { op: 'remove', path: '/markers/mk_hook' },
    ])
    expect(lanterns(ledger.level).la_a.markerId).toBeNull()
  })
})
