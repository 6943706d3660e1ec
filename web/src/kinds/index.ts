/** Everything that is derived from how kinds of things are shown. */
import { kindIn, thingOf, thingWord, type Collection, type Level } from '@tidytrail/core/level'
import type { HitTest } from '../map/hit'
import type { Layer, Painter } from '../map/layer'
import type { InkName } from '../map/inks'
import type { OverlookPart } from '../overlook/part'
import type { MakeTool } from '../tools/tool'
import { derivedHandles } from './handles'
import { derivedHits } from './hits'
import type { Handles, KindView } from './kind-view'
import { VIEWS } from './list'
export { marqueeSelect, thingsOfStage } from './marquee-select'
import { derivedPainters } from './plain-draw'
import { derivedRegister } from './plain-register'
import type { Register } from './register'

const byCollection = new Map(VIEWS.map((view) => [view.in, view]))

/** How things of a collection are shown; undefined for those that are never, such as waivers. */
export const viewIn = (collection: Collection): KindView | undefined => byCollection.get(collection)

const inkOf = (view: KindView) => view.tone.replace('text-', '') as InkName

/** All that is drawn of things, each with the collections it reads. */
export const KIND_PAINTERS: readonly Painter[] = VIEWS.flatMap((view) =>
  (view.painters ?? derivedPainters(view.in, view.layer.id, inkOf(view))).map((painter) => ({
    ...painter,
    reads: [view.in, ...(painter.reads ?? [])],
  })),
)

export const KIND_HITS: readonly HitTest[] = VIEWS.flatMap(
  (view) => view.hits ?? derivedHits(view.in, view.layer.id, view.stage),
)

/** The layers of the legend things are shown with, once each. */
export const KIND_LAYERS: readonly Layer[] = [
  ...new Map(VIEWS.filter((v) => v.layer.strokes.length > 0).map((v) => [v.layer.id, v.layer])).values(),
]

export const KIND_TOOLS: readonly MakeTool[] = VIEWS.flatMap((view) => view.tools ?? [])

export const KIND_REGISTERS: readonly Register[] = VIEWS.flatMap((view) => {
  if (view.register === false) return []
  return [view.register ?? derivedRegister(view.in, view.stage, view.layer.strokes)]
})

/** What a thing can be taken hold of by when it alone is chosen. */
export function handlesFor(collection: Collection): Handles<Collection> | undefined {
  const view = viewIn(collection)
  return view?.handles ?? derivedHandles(collection)
}

/** What a thing is called on its card and in lists: its shape or kind rather than only what it is. */
export function wordFor(level: Level, id: string): string {
  const found = thingOf(level, id)
  if (!found) return ''
  return viewIn(found.in)?.word?.(found.thing as never) ?? thingWord(found.in)
}

/** Everything that can be found by its name. */
export function findable(level: Level): { id: string; name: string; kind: string }[] {
  return VIEWS.flatMap((view) => {
    if (view.found === false) return []
    const ids = Object.keys(level[view.in])
    return ids.map((id) => {
      if (view.found) return { id, ...view.found(level, id) }
      const { name } = level[view.in][id] as { name?: string }
      return { id, name: name || 'Unnamed', kind: kindIn(view.in).word }
    })
  })
}

/** What is drawn of things in the Overlook, fetched when somebody looks. */
export async function overlookParts(): Promise<ReadonlyMap<string, OverlookPart>> {
  const parts = await Promise.all(
    VIEWS.flatMap((view) => (view.overlook ? [view.overlook().then((part) => [view.in, part] as const)] : [])),
  )
  return new Map(parts)
}
