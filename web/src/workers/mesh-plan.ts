import type { MeshData, MeshLookup } from '@tidytrail/core/ground'
import type { MeshPlan } from '../stores/assets'

const MOST_PIXELS = 1_500_000
/** A step in height between two pixels this large is inked as an edge, metres. */
const EDGE_M = 0.25

/** Draws a mesh as seen from above: steep parts shaded, edges inked. */
export function drawMeshPlan({ positions, indices }: MeshData, { min, max, rise }: MeshLookup): MeshPlan {
  const wide = Math.max(0.01, max[0] - min[0])
  const deep = Math.max(0.01, max[1] - min[1])
  const pixel = Math.max(0.02, Math.sqrt((wide * deep) / MOST_PIXELS), Math.max(wide, deep) / 4000)
  const width = Math.max(1, Math.ceil(wide / pixel))
  const height = Math.max(1, Math.ceil(deep / pixel))
  const top = new Float32Array(width * height).fill(-Infinity)
  const slope = new Float32Array(width * height)
  for (let t = 0; t < rise.length; t++) {
    if (rise[t] === Infinity) continue
    const a = indices[t * 3] * 3
    const b = indices[t * 3 + 1] * 3
    const c = indices[t * 3 + 2] * 3
    const ax = (positions[a] - min[0]) / pixel - 0.5
    const ay = (positions[a + 1] - min[1]) / pixel - 0.5
    const bx = (positions[b] - min[0]) / pixel - 0.5
    const by = (positions[b + 1] - min[1]) / pixel - 0.5
    const cx = (positions[c] - min[0]) / pixel - 0.5
    const cy = (positions[c + 1] - min[1]) / pixel - 0.5
    const whole = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
    if (whole === 0) continue
    const i1 = Math.max(0, Math.ceil(Math.min(ax, bx, cx)))
    const i2 = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx)))
    const j1 = Math.max(0, Math.ceil(Math.min(ay, by, cy)))
    const j2 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy)))
    for (let j = j1; j <= j2; j++) {
      for (let i = i1; i <= i2; i++) {
        const u = ((bx - i) * (cy - j) - (by - j) * (cx - i)) / whole
        const v = ((cx - i) * (ay - j) - (cy - j) * (ax - i)) / whole
        const w = 1 - u - v
        if (u < -1e-6 || v < -1e-6 || w < -1e-6) continue
        const z = u * positions[a + 2] + v * positions[b + 2] + w * positions[c + 2]
        const k = j * width + i
        if (z <= top[k]) continue
        top[k] = z
        slope[k] = rise[t]
      }
    }
  }
  const ink = new Uint8ClampedArray(width * height)
  // Thick enough to be seen when the whole mesh is a hand's width on the screen.
  const reach = Math.max(1, Math.round(Math.max(width, height) * 0.0035))
  const higher = (k: number, n: number) => top[k] - top[n] > EDGE_M + 1.5 * slope[k] * pixel
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) {
      const k = j * width + i
      if (top[k] === -Infinity) continue
      const to = (height - 1 - j) * width + i
      ink[to] = Math.max(ink[to], 26 + Math.min(90, slope[k] * 60))
      const west = i === 0 || higher(k, k - 1)
      const east = i === width - 1 || higher(k, k + 1)
      const south = j === 0 || higher(k, k - width)
      const north = j === height - 1 || higher(k, k + width)
      if (!west && !east && !south && !north) continue
      // The line lies on the higher side, whose edge it is.
      for (let d = 0; d < reach; d++) {
        if (west && i + d < width) ink[to + d] = 235
        if (east && i - d >= 0) ink[to - d] = 235
        if (south && j + d < height) ink[to - d * width] = 235
        if (north && j - d >= 0) ink[to + d * width] = 235
      }
    }
  }
  return { width, height, minX: min[0], minY: min[1], maxX: min[0] + width * pixel, maxY: min[1] + height * pixel, ink }
}
