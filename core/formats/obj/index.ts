import type { FormatOf } from '../format'
import { textOf } from '../text'
import { readObj } from './read'

export const obj: FormatOf<'mesh'> = {
  id: 'obj',
  word: 'OBJ mesh',
  endings: ['obj'],
  gives: 'mesh',
  read: (bytes, options) => readObj(textOf(bytes), options),
}
