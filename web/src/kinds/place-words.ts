/** Places of a level, and values in it, in the words of the people who use it. */
import {
  collectionOf,
  isCollection,
  nameOf,
  pointerKeys,
  thingWord,
  type Level,
  type LevelError,
} from '@tidytrail/core/level'

/** Words for keys whose own letters do not make one. */
const WORDS: Record<string, string> = {
  at: 'place',
  'at.0': 'east',
  'at.1': 'north',
  'at.2': 'height',
  'from.0': 'east of its beginning',
  'from.1': 'north of its beginning',
  'from.2': 'height of its beginning',
  'to.0': 'east of its end',
  'to.1': 'north of its end',
  'to.2': 'height of its end',
  minS: 'shortest',
  maxS: 'longest',
  baseM: 'underside',
  sizeX: 'length',
  sizeY: 'width',
  extent: 'extent of the sheet',
  cellM: 'width of columns',
  order: 'order',
  linkIds: 'links',
  hostileTo: 'enemies',
  ring: 'outline',
}
const UNITS: Record<string, string> = { M: 'm', S: 's', Rad: 'rad', Mps: 'm/s', Mps2: 'm/s²', Radps: 'rad/s' }
const UNIT_AT_END = /(Mps2|Radps|Mps|Rad|M|S)$/

/** A key as a word: `speedLimitMps` is a speed limit. */
function wordOf(key: string): string {
  if (WORDS[key]) return WORDS[key]
  return key
    .replace(UNIT_AT_END, '')
    .replace(/Ids?$/, '')
    .replaceAll(/([A-Z])/g, ' $1')
    .toLowerCase()
}

/** A place of a level: the thing, and what of it. */
export interface PlaceWords {
  readonly thing: string
  readonly what: string
}

/** @param keys lead to the place, such as `waypoints`, `wp_a`, `at`, `0` */
export function placeWords(level: Level, keys: readonly string[]): PlaceWords {
  let thing = 'The level'
  let rest = keys
  if (isCollection(keys[0]) && keys.length > 1) {
    const there = collectionOf(level, keys[1]) === keys[0]
    thing = there ? nameOf(level, keys[1]) : `A ${thingWord(keys[0])} that is gone`
    rest = keys.slice(2)
    if (keys[0] === 'routes' && rest[0] === 'stops' && rest.length > 1) {
      const number = level.routes[keys[1]]?.order.indexOf(rest[1]) ?? -1
      thing = number >= 0 ? `Stop ${number + 1} of ${thing}` : `A stop of ${thing}`
      rest = rest.slice(2)
    }
  } else if (keys[0] === 'settings' || keys[0] === 'ground') rest = keys.slice(1)
  const words: string[] = []
  for (let i = 0; i < rest.length; i++) {
    const pair = `${rest[i]}.${rest[i + 1]}`
    if (WORDS[pair]) {
      words.push(WORDS[pair])
      i++
    } else if (!/^(\d+|[a-z]{2}_\w+)$/.test(rest[i])) words.push(wordOf(rest[i]))
  }
  return { thing, what: words.join(', ') }
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** Why a level may not hold something, as one sentence: "North post: east may be at most 100,000." */
export function faultWords(level: Level, fault: LevelError): string {
  const { thing, what } = placeWords(level, fault.keys)
  return what ? `${thing}: ${what} ${fault.why}.` : `${thing} ${fault.why}.`
}

/** What stands at a place, short enough for one line. */
export function valueWords(level: Level, path: string, value: unknown): string {
  const key = pointerKeys(path).findLast((k) => !/^\d+$/.test(k)) ?? ''
  const unit = UNITS[UNIT_AT_END.exec(key)?.[0] ?? ''] ?? (/^(at|from|to|sizeX|sizeY)$/.test(key) ? 'm' : '')
  if (value === undefined) return 'deleted'
  if (value === null) return 'none'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') return `${+value.toFixed(3)}${unit ? ` ${unit}` : ''}`
  if (typeof value === 'string') {
    if (/^[a-z]{2}_\w+$/.test(value) && collectionOf(level, value)) return nameOf(level, value)
    return value === '' ? 'empty' : `“${value.length > 60 ? `${value.slice(0, 59)}…` : value}”`
  }
  if (Array.isArray(value)) {
    if (value.length <= 3 && value.every((v) => typeof v === 'number'))
      return `${value.map((v: number) => +v.toFixed(2)).join(', ')}${unit ? ` ${unit}` : ''}`
    return `${value.length} ${value.length === 1 ? 'entry' : 'entries'}`
  }
  const { name } = value as { name?: string }
  return name ? `“${name}”` : 'changed as a whole'
}

/** A place as one line: "North post, east". */
export function placeLine(level: Level, path: string): string {
  const { thing, what } = placeWords(level, pointerKeys(path))
  return what ? `${thing}, ${what}` : capital(thing)
}
