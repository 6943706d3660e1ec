/** Squares of the grid at most, for each body in it. */
const SQUARES_A_BODY = 4
/** How many of the nearest are looked for. */
const MOST_NEAREST = 10
/** Numbers a laid body takes: a line of the memory's own. */
const LAID = 8

/** What is looked at of bodies: places, velocities, heights. */
export type Bodies = Readonly<Record<'x' | 'y' | 'z' | 'vx' | 'vy' | 'height', Float64Array>>

/**
 * Who is near whom: bodies in the squares of a grid, sorted anew by counting when they have moved. Nothing is allocated
 * but when there are more bodies than ever before.
 */
export class Neighbours {
  private first = new Uint32Array(2)
  private bodies = new Uint32Array(0)
  private square = new Uint32Array(0)
  private minX = 0
  private minY = 0
  private sideM = 1
  private columns = 1
  private rows = 1

  /** Takes the places of n bodies. @param there those whose number here is 0 are not there @param sideM about how wide a square is, metres */
  sort(n: number, x: Float64Array, y: Float64Array, there: ArrayLike<number>, sideM: number): void {
    if (this.bodies.length < n) {
      this.bodies = new Uint32Array(n * 2)
      this.square = new Uint32Array(n * 2)
    }
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let k = 0; k < n; k++) {
      if (there[k] === 0) continue
      minX = Math.min(minX, x[k])
      minY = Math.min(minY, y[k])
      maxX = Math.max(maxX, x[k])
      maxY = Math.max(maxY, y[k])
    }
    this.columns = this.rows = 0
    if (maxX < minX) return
    // Wider squares where few bodies are strewn far.
    const most = Math.max(64, n * SQUARES_A_BODY)
    this.sideM = Math.max(sideM, Math.sqrt(((maxX - minX + sideM) * (maxY - minY + sideM)) / most))
    this.minX = minX
    this.minY = minY
    this.columns = Math.floor((maxX - minX) / this.sideM) + 1
    this.rows = Math.floor((maxY - minY) / this.sideM) + 1
    const squares = this.columns * this.rows
    if (this.first.length < squares + 2) this.first = new Uint32Array(squares * 2 + 2)
    const { first, bodies, square } = this
    first.fill(0, 0, squares + 2)
    for (let k = 0; k < n; k++) {
      if (there[k] === 0) continue
      square[k] = this.rowOf(y[k]) * this.columns + this.columnOf(x[k])
      first[square[k] + 2]++
    }
    for (let s = 2; s <= squares + 1; s++) first[s] += first[s - 1]
    for (let k = 0; k < n; k++) if (there[k] !== 0) bodies[first[square[k] + 1]++] = k
  }

  private columnOf = (x: number) => Math.min(this.columns - 1, Math.max(0, Math.floor((x - this.minX) / this.sideM)))
  private rowOf = (y: number) => Math.min(this.rows - 1, Math.max(0, Math.floor((y - this.minY) / this.sideM)))

  /** Bodies in the order of the squares, eight numbers each: what is near lies near in memory. */
  private laid = new Float64Array(0)

  /** Notes where everybody is and goes now, for `nearest`; nobody finds those of whom `away` is true. */
  lay({ x, y, z, vx, vy, height }: Bodies, away: (n: number) => boolean): void {
    const count = this.columns === 0 ? 0 : this.first[this.columns * this.rows]
    if (this.laid.length < count * LAID) this.laid = new Float64Array(this.bodies.length * LAID)
    const { laid, bodies } = this
    for (let b = 0, q = 0; b < count; b++, q += LAID) {
      const k = bodies[b]
      laid[q] = away(k) ? NaN : x[k]
      laid[q + 1] = y[k]
      laid[q + 2] = vx[k]
      laid[q + 3] = vy[k]
      laid[q + 4] = z[k]
      laid[q + 5] = height[k]
    }
  }

  /** The nearest others `nearest` has found, the nearest first, and the squares of their distances, square metres. */
  readonly closest = new Uint32Array(MOST_NEAREST)
  readonly closest2 = new Float64Array(MOST_NEAREST)

  /**
   * Finds the nearest others that a body could meet at its height. @param closeM beyond this those who do not come nearer
   * are passed over @returns how many
   */
  nearest({ x, y, z, vx, vy, height }: Bodies, n: number, withinM: number, closeM: number): number {
    if (this.columns === 0) return 0
    const { first, bodies, laid, closest, closest2, columns } = this
    const px = x[n]
    const py = y[n]
    const ux = vx[n]
    const uy = vy[n]
    const bottom = z[n]
    const top = bottom + height[n]
    const i1 = this.columnOf(px - withinM)
    const i2 = this.columnOf(px + withinM)
    const j2 = this.rowOf(py + withinM)
    const close2 = closeM * closeM
    let last2 = withinM * withinM
    let found = 0
    for (let j = this.rowOf(py - withinM); j <= j2; j++) {
      const to = first[j * columns + i2 + 1]
      for (let b = first[j * columns + i1], q = b * LAID; b < to; b++, q += LAID) {
        const dx = laid[q] - px
        const dy = laid[q + 1] - py
        const d2 = dx * dx + dy * dy
        if (!(d2 <= last2)) continue
        // Who is not near and goes away, or keeps its distance, is none to be heeded yet.
        if (d2 > close2 && dx * (laid[q + 2] - ux) + dy * (laid[q + 3] - uy) >= 0) continue
        if (laid[q + 4] >= top || bottom >= laid[q + 4] + laid[q + 5]) continue
        const m = bodies[b]
        if (m === n || (found === MOST_NEAREST && d2 === last2 && m > closest[found - 1])) continue
        let at = found < MOST_NEAREST ? found++ : MOST_NEAREST - 1
        // Of those equally far the one with the lower number is the nearer, whatever square it lies in.
        while (at > 0 && (closest2[at - 1] > d2 || (closest2[at - 1] === d2 && closest[at - 1] > m))) {
          closest[at] = closest[at - 1]
          closest2[at] = closest2[at - 1]
          at--
        }
        closest[at] = m
        closest2[at] = d2
        if (found === MOST_NEAREST) last2 = closest2[MOST_NEAREST - 1]
      }
    }
    return found
  }

  /** Bodies that may lie within a distance of a place, as `about` last found them. */
  found = new Uint32Array(64)

  /** Finds the bodies that may lie within a distance of a place, square by square. @returns how many */
  about(x: number, y: number, withinM: number): number {
    if (this.columns === 0) return 0
    const i1 = this.columnOf(x - withinM)
    const i2 = this.columnOf(x + withinM)
    const j2 = this.rowOf(y + withinM)
    let n = 0
    for (let j = this.rowOf(y - withinM); j <= j2; j++) {
      const to = this.first[j * this.columns + i2 + 1]
      for (let b = this.first[j * this.columns + i1]; b < to; b++) {
        if (n === this.found.length) {
          const grown = new Uint32Array(n * 2)
          grown.set(this.found)
          this.found = grown
        }
        this.found[n++] = this.bodies[b]
      }
    }
    return n
  }
}
