import type { FormatOf } from '../format'
import { pictureHead } from '../picture/read'
import { readHeightPng } from './read'

/** A grey picture of 16 bits a pixel; it may be a plan to trace all the same. Any other may hold heights in its stead. */
export const heightPng: FormatOf<'heights'> = {
  id: 'png',
  word: 'height map (PNG)',
  endings: ['png'],
  sniff(bytes) {
    const head = pictureHead(bytes)
    if (head.type !== 'image/png') return false
    return (head.grey && head.depth === 16) || 'perhaps'
  },
  gives: 'heights',
  ranged: true,
  read: readHeightPng,
}
