/** Squares of the grid at most, for each body in it. */
const SQUARES_A_BODY = 4

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
