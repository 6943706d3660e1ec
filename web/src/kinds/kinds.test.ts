// @vitest-environment happy-dom
import type { Collection, Level } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { bareScene } from '../map/bare-scene'
import { hitAt, type HitTest } from '../map/hit'
import type { MapScene } from '../map/scene'
import { toScreenX, toScreenY, type Viewport } from '../map/viewport'
import { recordingPen } from '../map/recording-pen'
import { allOf } from '../map/sliced'

/** A kind of thing the program does not have, and how little has to be said of it to show it. */
const lantern = await vi.hoisted(async () => {
  const { field, kept, METRES, name, PLACE, point3, positive, restriction, flag } =
    await import('../../../core/level/fields')
  const { defineKind, RESTRICTS } = await import('../../../core/level/kinds/kind')
  const { z } = await import('zod')
  return defineKind({
    in: 'lanterns',
    prefix: 'la',
    word: 'lantern',
    schema: z.strictObject({
      name,
      at: field(point3, PLACE),
      reachM: field(positive.max(60).default(8), { ...METRES, label: 'lights up to' }),
      lit: field(flag(true), { label: 'burns' }),
      hue: field(z.enum(['amber', 'sea']).default('amber'), { label: 'hue', words: { sea: 'sea green' } }),
      ...restriction,
      ...kept,
    }),
    refs: [RESTRICTS],
    stands: true,
  })
})
vi.mock('../../../core/level/kinds/list', async (original) => {
  const { KINDS } = await original<{ KINDS: readonly unknown[] }>()
  return { KINDS: [...KINDS, lantern] }
})
vi.mock('./list', async (original) => {
  const { VIEWS } = await original<typeof import('./list')>()
  const layer = { id: 'lanterns', name: 'Lanterns', strokes: [{ d: 'M0 0h4', ink: 'ochre' }] }
  return { VIEWS: [...VIEWS, { in: 'lanterns', stage: 'cast', layer, tone: 'text-ochre' }] }
})

const kinds = await import('.')
const { readLevel, blankLevel, setThings } = await import('@tidytrail/core/level')
const { useLevelStore } = await import('../stores/level')
const { useSheetStore } = await import('../stores/sheet')
const { mounted } = await import('../testing/mounted')
const { default: PlainCard } = await import('./card/PlainCard.vue')

vi.stubGlobal('fetch', () => new Promise(() => {}))
const LANTERNS = 'lanterns' as Collection
const level = readLevel({
  ...blankLevel('Lit'),
  lanterns: {
    la_a: { name: 'Quay lamp', at: [30, 40, 0] },
    la_b: { name: 'Dark lamp', at: [60, 40, 0], hidden: true },
    la_c: { name: 'Far lamp', at: [100, 70, 0], profileIds: ['pf_warden'] },
  },
} as never)
const view: Viewport = { x: 60, y: 40, scale: 5, width: 600, height: 400 }
const scene = (more: Partial<MapScene> = {}) => bareScene(level, { stage: 'cast', ...more })
const tests: HitTest[] = [...kinds.KIND_HITS].sort((a, b) => a.order - b.order)
const at = (x: number, y: number, more: Partial<MapScene> = {}) =>
  hitAt(tests, scene(more), view, toScreenX(view, x), toScreenY(view, y))

/** A store with a level in it, without a server or a browser's store behind it. */
function storeWith(doc: Level) {
  const levels = useLevelStore()
  levels.level = doc
  return levels
}
function type(field: HTMLInputElement, text: string) {
  field.value = text
  for (const event of ['input', 'change', 'blur']) field.dispatchEvent(new Event(event))
}
beforeEach(() => void setActivePinia(createPinia()))

describe('a kind of thing with one line in the list of views', () => {
  it('is found under the pointer by its place, unless it is hidden or its layer is', () => {
    expect(at(30.5, 40)).toEqual({ kind: 'thing', in: LANTERNS, id: 'la_a' })
    expect(at(60, 40)).toBeUndefined()
    expect(at(30, 40, { isShown: (layer) => layer !== 'lanterns' })).toBeUndefined()
  })

  it('is taken by a marquee round it', () => {
    const ring: [number, number][] = [
      [20, 30],
      [110, 30],
      [110, 75],
      [20, 75],
    ]
    expect(kinds.marqueeSelect(level, ring, 'cast', () => true)).toEqual(['la_a', 'la_c'])
    expect(kinds.marqueeSelect(level, ring, 'cast', (layer) => layer !== 'lanterns')).toEqual([])
  })

  it('is drawn where it is, and not when it is hidden', () => {
    const { pen, marks } = recordingPen(view)
    for (const p of kinds.KIND_PAINTERS) if (p.layer === 'lanterns') allOf(p.draw(pen, scene()))
    expect(marks('arc').map(([x, y]) => [x, y])).toEqual([
      [toScreenX(view, 30), toScreenY(view, 40)],
      [toScreenX(view, 100), toScreenY(view, 70)],
    ])
  })

  it('has a line in the legend, a list in the register of its stage, and can be found by name', () => {
    expect(kinds.KIND_LAYERS.map((l) => l.id)).toContain('lanterns')
    const register = kinds.KIND_REGISTERS.find((r) => r.id === LANTERNS)!
    expect(register).toMatchObject({ stage: 'cast', name: 'Lanterns', ifAny: true })
    storeWith(level)
    const list = register.use()
    expect(list.rows.value.map((r) => r.name)).toEqual(['Quay lamp', 'Dark lamp', 'Far lamp'])
    expect(list.figure.value).toBe('3 lanterns')
    expect(list.lists('la_b')).toBe(true)
    expect(kinds.findable(level)).toContainEqual({ id: 'la_a', name: 'Quay lamp', kind: 'lantern' })
  })

  it('can be renamed, hidden and locked in the register', () => {
    const levels = storeWith(level)
    const { actions } = kinds.KIND_REGISTERS.find((r) => r.id === LANTERNS)!.use()
    actions.rename!('la_a', 'Pier lamp')
    actions.lock!('la_a')
    actions.hide!('la_a')
    const now = levels.doc[LANTERNS].la_a as unknown as { name: string; locked: boolean; hidden: boolean }
    expect(now).toMatchObject({ name: 'Pier lamp', locked: true, hidden: true })
  })

  it('has a card with the fields of its schema, which set what they say', async () => {
    const levels = storeWith(level)
    const { host, labels, end } = await mounted(PlainCard, { id: 'la_a', in: LANTERNS, tone: 'text-ochre' })
    for (const label of [
      'east',
      'north',
      'height',
      'lights up to',
      'hue',
      'burns',
      'note',
      'tags, with commas between',
    ])
      expect(labels()).toContain(label)
    const reach = host.querySelector<HTMLInputElement>('[aria-label="lights up to, m"]')!
    type(reach, '900')
    expect(levels.doc[LANTERNS].la_a).toMatchObject({ reachM: 60 })
    const hue = host.querySelector<HTMLSelectElement>('[aria-label="hue"]')!
    expect([...hue.options].map((o) => o.textContent)).toEqual(['amber', 'sea green'])
    hue.value = 'sea'
    hue.dispatchEvent(new Event('change'))
    expect(levels.doc[LANTERNS].la_a).toMatchObject({ hue: 'sea' })
    const east = host.querySelector<HTMLInputElement>('[aria-label="east, m"]')!
    type(east, '30 + 2.5')
    expect(levels.doc[LANTERNS].la_a).toMatchObject({ at: [32.5, 40, 0] })
    end()
  })

  it('is deleted by its card, and nothing else is', async () => {
    const levels = storeWith(level)
    useSheetStore().choose(['la_a'])
    const { host, end } = await mounted(PlainCard, { id: 'la_c', in: LANTERNS, tone: 'text-ochre' })
    const button = [...host.querySelectorAll('button')].find((b) => b.textContent === 'Delete')!
    button.click()
    expect(Object.keys(levels.doc[LANTERNS])).toEqual(['la_a', 'la_b'])
    expect(useSheetStore().selected).toEqual([])
    end()
  })

  it('says on its card that nobody may use it, and opens it to everyone', async () => {
    const levels = storeWith(level)
    const set = { profileIds: [], nobody: true }
    levels.perform(setThings, { things: [{ in: LANTERNS, id: 'la_c', set }], word: 'Change' })
    const { host, end } = await mounted(PlainCard, { id: 'la_c', in: LANTERNS, tone: 'text-ochre' })
    expect(host.textContent).toContain('Nobody may use it')
    ;[...host.querySelectorAll('button')].find((b) => b.textContent === 'Open it to everyone')!.click()
    expect(levels.doc[LANTERNS].la_c).toMatchObject({ profileIds: [], nobody: false })
    end()
  })
})
