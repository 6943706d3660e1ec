import type { FormatOf } from '../format'
import { readGltf } from './read'

export const gltf: FormatOf<'mesh'> = {
  id: 'gltf',
  word: 'glTF mesh',
  endings: ['glb', 'gltf'],
  gives: 'mesh',
  read: readGltf,
}
