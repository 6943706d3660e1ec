import type { FormatOf } from '../format'
import { textOf } from '../text'
import { readEsriAscii } from './read'

export const esriAscii: FormatOf<'heights'> = {
  id: 'asc',
  word: 'height map (Esri ASCII grid)',
  endings: ['asc', 'grd', 'ag', 'agr', 'txt'],
  // Such endings stand for much else: its first key tells.
  sniff: (bytes) => /^\s*(ncols|nrows|xll|yll|cellsize|dx|dy|nodata)/i.test(textOf(bytes.subarray(0, 200))),
  gives: 'heights',
  ranged: false,
  read: (bytes, options) => readEsriAscii(textOf(bytes), options),
}
