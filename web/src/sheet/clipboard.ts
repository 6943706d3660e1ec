import { addThings, clipOf, COPIED, levelSchema, movedThing, pasted, shift, type Clip } from '@tidytrail/core/level'
import { useEventListener } from '@vueuse/core'
import { useLevelStore } from '../stores/level'
import { randomId } from '../stores/random-id'
import { useSheetStore } from '../stores/sheet'
import { count } from '../ui/figures'
import { toast } from '../ui/toasts'

/** Longer texts are not looked at as clips. */
const MOST_LETTERS = 20_000_000

/** Copies the choice to the system's clipboard, and takes clips from it, of this level or of another. */
export function useClipboard(ready: () => boolean): void {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const typing = (event: Event) => /^(INPUT|TEXTAREA|SELECT)$/.test((event.target as HTMLElement).tagName ?? '')

  /** Chosen things; a chosen stop stands for its route. */
  function wanted(): string[] {
    const { routes } = levels.doc
    const ids = sheet.selected.map((id) => Object.keys(routes).find((r) => routes[r].stops[id]) ?? id)
    return [...new Set(ids)]
  }

  function copy(event: ClipboardEvent): Clip | undefined {
    if (!ready() || typing(event) || sheet.selected.length === 0 || String(getSelection())) return undefined
    const clip = clipOf(levels.doc, wanted(), COPIED)
    if (Object.keys(clip.routes).length + Object.keys(clip.waypoints).length + clip.things.length === 0)
      return undefined
    event.clipboardData?.setData('text/plain', JSON.stringify(clip))
    event.preventDefault()
    return clip
  }

  useEventListener(document, 'copy', (event: ClipboardEvent) => {
    const clip = copy(event)
    if (clip) toast(`${words(clip)} copied.`)
  })
  useEventListener(document, 'paste', (event: ClipboardEvent) => {
    if (!ready() || typing(event)) return
    const text = event.clipboardData?.getData('text/plain') ?? ''
    if (text.trim() === '') return
    event.preventDefault()
    const clip = readClip(text)
    if (typeof clip === 'string') {
      // Anything else that is pasted on the map may be a list of places.
      if (clip === '') {
        sheet.stage = 'routes'
        sheet.pastedText = text
        sheet.laying = 'list'
      } else toast(clip, { kind: 'alarm' })
      return
    }
    const by: [number, number] = Object.keys(clip.routes).some((id) => levels.doc.routes[id])
      ? [levels.doc.settings.gridM * 3, -levels.doc.settings.gridM * 3]
      : [0, 0]
    const things = pasted(levels.doc, clip, by, (kind) => randomId(kind as 'routes'))
    for (const { in: collection, thing } of clip.things) {
      const moved = movedThing(thing as object, shift(...by))
      const own = moved && standAlone(moved)
      if (own) things.push({ in: collection, id: randomId(collection), thing: own })
    }
    levels.perform(addThings, { things, label: `Paste ${words(clip)}` })
    sheet.choose(things.filter((t) => t.in !== 'waypoints' && t.in !== 'links').map((t) => t.id))
    toast(`${words(clip)} pasted.`, { action: { label: 'Undo', run: levels.undo } })
  })

  /** A thing without references to what this level has not. */
  function standAlone(thing: object): object {
    const has = (where: 'profiles' | 'factions' | 'briefs' | 'zones', id: unknown) =>
      typeof id === 'string' && Object.hasOwn(levels.doc[where], id)
    const out: Record<string, unknown> = { ...thing }
    for (const [key, where] of [
      ['profileId', 'profiles'],
      ['factionId', 'factions'],
      ['briefId', 'briefs'],
      ['zoneId', 'zones'],
    ] as const)
      if (key in out && !has(where, out[key])) out[key] = null
    if (Array.isArray(out.profileIds)) out.profileIds = out.profileIds.filter((p) => has('profiles', p))
    return out
  }
}

const words = (clip: Clip) => {
  const routes = Object.keys(clip.routes).length
  const things = clip.things.length
  return (
    [routes > 0 ? count(routes, 'route') : '', things > 0 ? count(things, 'thing') : '']
      .filter(Boolean)
      .join(' and ') || 'A waypoint'
  )
}

/** A clip out of a text; '' when the text is something else, a reason when the clip cannot be used. */
function readClip(text: string): Clip | string {
  if (!text.includes('"tidytrail-clip"') || text.length > MOST_LETTERS) return ''
  try {
    const raw = JSON.parse(text) as Clip
    const parts = ['waypoints', 'routes', 'links'] as const
    const clip = { ...raw, things: [] as Clip['things'][number][] }
    for (const part of parts) Object.assign(clip, { [part]: levelSchema.shape[part].parse(raw[part]) })
    for (const t of raw.things) {
      if (!COPIED.includes(t.in)) continue
      const [thing] = Object.values(levelSchema.shape[t.in].parse({ [t.id]: t.thing }) as Record<string, unknown>)
      clip.things.push({ in: t.in, id: t.id, thing })
    }
    const known = (id: string) => Object.hasOwn(clip.waypoints, id)
    const whole =
      Object.values(clip.links).every((l) => known(l.fromId) && known(l.toId)) &&
      Object.values(clip.routes).every(
        (r) =>
          r.order.length === Object.keys(r.stops).length &&
          r.order.every((s) => r.stops[s] && known(r.stops[s].waypointId)) &&
          r.linkIds.every((l) => clip.links[l]),
      )
    return whole ? clip : 'What was copied is not whole: it names waypoints or links that are not in it.'
  } catch (e) {
    return `What was copied cannot be read: ${(e as Error).message.slice(0, 160)}`
  }
}
