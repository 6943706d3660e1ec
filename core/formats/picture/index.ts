import type { FormatOf } from '../format'

export const picture: FormatOf<'picture'> = {
  id: 'picture',
  word: 'underlay',
  endings: ['png', 'jpg', 'jpeg'],
  gives: 'picture',
}
