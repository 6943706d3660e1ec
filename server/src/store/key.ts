import { randomInt } from 'node:crypto'

const KEY_LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789'
/** A new key: of a level on the shelf, or of something else that is kept. */
export const newKey = (prefix: 'lv' | 'jb' | 'rh' = 'lv') =>
  `${prefix}_${Array.from({ length: 10 }, () => KEY_LETTERS[randomInt(KEY_LETTERS.length)]).join('')}`
