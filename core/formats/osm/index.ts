import type { FormatOf } from '../format'
import { textOf } from '../text'
import { readOsm } from './read'

export const osm: FormatOf<'streets'> = {
  id: 'osm',
  word: 'OpenStreetMap XML',
  endings: ['osm', 'xml'],
  // Much else ends so: it begins with its own element.
  sniff: (bytes) => /^\uFEFF?\s*(<\?xml[^>]*>\s*)?(<!--.*?-->\s*|<!DOCTYPE[^>]*>\s*)*<osm[\s>]/s.test(textOf(bytes.subarray(0, 2000))) || 'perhaps', // prettier-ignore
  gives: 'streets',
  read: (text) => readOsm(text),
}
