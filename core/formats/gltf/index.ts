import type { FormatOf } from '../format'

export const gltf: FormatOf<'mesh'> = {
  id: 'gltf',
  word: 'glTF mesh',
  endings: ['glb', 'gltf'],
  gives: 'mesh',
  // What takes it apart is large, and most pages never need it.
  read: async (...args) => (await import('./read')).readGltf(...args),
}
