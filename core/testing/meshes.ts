import { topAt, type MeshData, type SolidShape } from '@tidytrail/core/ground'

/** Closed triangle meshes of convex solids, as if somebody had modelled them: tops, undersides and sides. */
export function meshOfShapes(shapes: readonly SolidShape[]): MeshData {
  const positions: number[] = []
  const indices: number[] = []
  for (const shape of shapes) {
    const n = shape.ring.length
    const low = positions.length / 3
    for (const [x, y] of shape.ring) positions.push(x, y, shape.baseM)
    const high = positions.length / 3
    for (const [x, y] of shape.ring) positions.push(x, y, topAt(shape, x, y))
    for (let k = 1; k + 1 < n; k++) {
      indices.push(high, high + k, high + k + 1)
      indices.push(low, low + k + 1, low + k)
    }
    for (let a = n - 1, b = 0; b < n; a = b++) {
      indices.push(low + a, low + b, high + b)
      indices.push(low + a, high + b, high + a)
    }
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}

/** A hash for tests: the same words give the same one. */
export function fakeHash(words: string): string {
  let h = 0x811c9dc5
  let out = ''
  while (out.length < 64) {
    for (let i = 0; i < words.length; i++) h = Math.imul(h ^ words.charCodeAt(i), 0x01000193) >>> 0
    h = Math.imul(h ^ out.length, 0x01000193) >>> 0
    out += h.toString(16).padStart(8, '0')
  }
  return out.slice(0, 64)
}
