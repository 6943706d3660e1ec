import { kindIn, thingsWord, type AnyThing, type Collection } from '@tidytrail/core/level'
import { computed, defineComponent, h, type ComputedRef } from 'vue'
import { useLevelStore } from '../stores/level'
import type { StageId } from '../stores/sheet'
import { count } from '../ui/figures'
import type { Stroke } from '../ui/stroke'
import StrokeDrawing from '../ui/StrokeDrawing.vue'
import { useRegisterActions } from './register-actions'
import type { Register, RegisterRow } from './register'

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** The symbol of rows, drawn by strokes. */
export const strokeSymbol = (strokesOf: (row: RegisterRow) => readonly Stroke[], width = 22, height = 16) =>
  defineComponent({
    props: { row: { type: Object as () => RegisterRow, required: true } },
    setup: (props) => () => h(StrokeDrawing, { strokes: strokesOf(props.row), width, height }),
  })

/**
 * Rows of all things of a collection. A row is told of anew only when its thing is another, or something that was read
 * for it: of thousands of things an edit changes one.
 */
export function useRows<T extends AnyThing>(
  collection: Collection,
  tell: (thing: T, id: string) => Omit<Partial<RegisterRow>, 'id'> & { detail: string; size: number },
) {
  const levels = useLevelStore()
  let known = new Map<string, { thing: unknown; row: ComputedRef<RegisterRow> }>()
  const rowOf = (id: string, t: T) =>
    computed<RegisterRow>(() => ({
      id,
      name: t.name || 'Unnamed',
      hidden: t.hidden,
      locked: t.locked,
      ...tell(t, id),
    }))
  return computed<RegisterRow[]>(() => {
    const before = known
    known = new Map()
    return Object.entries(levels.doc[collection]).map(([id, thing]) => {
      const was = before.get(id)
      const row = was && was.thing === thing ? was.row : rowOf(id, thing as unknown as T)
      known.set(id, { thing, row })
      return row.value
    })
  })
}

/** What all registers of the things of a collection have in common. */
export function useCollection(collection: Collection) {
  const levels = useLevelStore()
  return {
    count: computed(() => Object.keys(levels.doc[collection]).length),
    figure: computed(() => {
      const n = Object.keys(levels.doc[collection]).length
      return count(n, kindIn(collection).word, thingsWord(collection))
    }),
    actions: useRegisterActions(() => collection),
    lists: (id: string) => Object.hasOwn(levels.doc[collection], id),
  }
}

/** The register of a kind that does not say of itself how it is listed. */
export function derivedRegister(collection: Collection, stage: StageId, strokes: readonly Stroke[]): Register {
  const words = thingsWord(collection)
  return {
    id: collection,
    stage,
    name: capital(words),
    find: `Find among the ${words}`,
    ifAny: true,
    symbol: strokeSymbol(() => strokes, 34, 18),
    use: () => ({
      ...useCollection(collection),
      rows: useRows(collection, (t) => ({ detail: t.kind ?? kindIn(collection).word, size: 0 })),
      empty: computed(() => `No ${kindIn(collection).word} yet.`),
    }),
  }
}
