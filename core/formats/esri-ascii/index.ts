import type { FormatOf } from '../format'
import { readEsriAscii } from './read'

export const esriAscii: FormatOf<'heights'> = {
  id: 'asc',
  word: 'height map (Esri ASCII grid)',
  endings: ['asc', 'grd'],
  gives: 'heights',
  ranged: false,
  read: (bytes) => readEsriAscii(new TextDecoder().decode(bytes)),
}
