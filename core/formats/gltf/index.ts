import type { FormatOf } from '../format'
import { looksLike, readChains } from './chains'

/** What is in a file, as far as it can be told: what it says of itself is refused when it is read. */
function inside(bytes: Uint8Array): { chains: boolean; meshes: boolean } {
  try {
    return looksLike(bytes)
  } catch {
    return { chains: false, meshes: true }
  }
}

export const gltf: FormatOf<'mesh'> = {
  id: 'gltf',
  word: 'glTF mesh',
  endings: ['glb', 'gltf'],
  gives: 'mesh',
  // One that holds nothing but places is hardly meant as a mesh.
  sniff: (bytes) => {
    const { chains, meshes } = inside(bytes)
    return !chains || meshes || 'perhaps'
  },
  // What takes it apart is large, and most pages never need it.
  read: async (...args) => (await import('./read')).readGltf(...args),
}

export const gltfChains: FormatOf<'lanes'> = {
  id: 'gltf-chains',
  word: 'chains of nodes in glTF',
  endings: ['glb', 'gltf'],
  gives: 'lanes',
  sniff: (bytes) => {
    const { chains, meshes } = inside(bytes)
    return chains && (meshes ? 'perhaps' : true)
  },
  read: readChains,
}
