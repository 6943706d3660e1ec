import type { FormatOf } from '../format'
import { textOf } from '../text'
import { readOpenDrive } from './read'

export const openDrive: FormatOf<'lanes'> = {
  id: 'opendrive',
  word: 'ASAM OpenDRIVE',
  endings: ['xodr', 'xml'],
  sniff: (bytes) => /<OpenDRIVE[\s>]/.test(textOf(bytes.subarray(0, 4000))),
  gives: 'lanes',
  read: (bytes) => readOpenDrive(textOf(bytes)),
}
