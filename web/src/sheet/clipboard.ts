import {
  addThings,
  clipOf,
  clippedIn,
  COLLECTIONS,
  holderOf,
  pasted,
  readClip,
  standsAlone,
  thingsWord,
  thingWord,
  type Clip,
} from '@tidytrail/core/level'
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

  /** Chosen things; a chosen part stands for the thing it belongs to, as a stop for its route. */
  function wanted(): string[] {
    return [...new Set(sheet.selected.map((id) => holderOf(levels.doc, id)?.id ?? id))]
  }

  useEventListener(document, 'copy', (event: ClipboardEvent) => {
    if (!ready() || typing(event) || sheet.selected.length === 0 || String(getSelection())) return
    const clip = clipOf(levels.doc, wanted())
    if (Object.keys(clip.things).length === 0) return
    event.clipboardData?.setData('text/plain', JSON.stringify(clip))
    event.preventDefault()
    toast(`${clipWords(clip)} copied.`)
  })
  useEventListener(document, 'paste', (event: ClipboardEvent) => {
    if (!ready() || typing(event)) return
    const text = event.clipboardData?.getData('text/plain') ?? ''
    if (text.trim() === '') return
    event.preventDefault()
    const clip = clipFrom(text)
    if (clip === undefined) {
      // Anything else that is pasted on the map may be a list of places.
      sheet.stage = 'routes'
      sheet.pastedText = text
      sheet.laying = 'list'
    } else if (typeof clip === 'string') toast(clip, { kind: 'alarm' })
    else paste(clip)
  })

  function paste(clip: Clip): void {
    // Beside what was copied where that is in this level; where it was in any other.
    const here = COLLECTIONS.some((c) => Object.keys(clip.things[c] ?? {}).some((id) => levels.doc[c][id]))
    const { gridM } = levels.doc.settings
    const things = pasted(levels.doc, clip, here ? [gridM * 3, -gridM * 3] : [0, 0], randomId)
    levels.perform(addThings, { things, label: `Paste ${clipWords(clip)}` })
    sheet.choose(things.filter((t) => isTold(t.in)).map((t) => t.id))
    toast(`${clipWords(clip)} pasted.`, { action: levels.undoLast() })
  }
}

/** Is a kind spoken of, rather than what comes along with those that are? */
const isTold = (collection: (typeof COLLECTIONS)[number]) => standsAlone(collection) || collection === 'routes'

/** What is in a clip: "2 routes and 3 solids". */
export function clipWords(clip: Clip): string {
  const told = COLLECTIONS.filter((c) => isTold(c) && clippedIn(clip, c) > 0)
  const all = told.length > 0 ? told : COLLECTIONS.filter((c) => clippedIn(clip, c) > 0)
  const words = all.map((c) => count(clippedIn(clip, c), thingWord(c), thingsWord(c)))
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? 'Nothing')
}

/** A clip out of a text; undefined when the text is something else, a reason when the clip cannot be used. */
export function clipFrom(text: string): Clip | string | undefined {
  if (!text.includes('"tidytrail-clip"') || text.length > MOST_LETTERS) return undefined
  try {
    return readClip(JSON.parse(text))
  } catch (e) {
    const at = (e as Error).message.slice(0, 160)
    return `What was copied cannot be read: ${at}.`
  }
}
