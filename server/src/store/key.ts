import { randomInt } from 'node:crypto'

const KEY_LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789'
/** A new key of a level on the shelf. */
export const newKey = () =>
  `lv_${Array.from({ length: 10 }, () => KEY_LETTERS[randomInt(KEY_LETTERS.length)]).join('')}`
