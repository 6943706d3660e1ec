/** Velocities so little outside are inside, metres a second. */
const EPS = 1e-9

/**
 * The velocity nearest to a wanted one within half-planes and a greatest speed: the linear program of van den Berg, Guy,
 * Lin and Manocha (2011), solved step by step as they do; where nothing satisfies all half-planes, the velocity that
 * breaks them by least. Half-planes that must hold come first.
 */
export class HalfPlanes {
  private count = 0
  private must = 0
  /** px, py, dx, dy of each: what lies to the left of the direction at the point is allowed. */
  private plane = new Float64Array(4 * 64)
  private spare = new Float64Array(4 * 64)
  /** What was found. */
  x = 0
  y = 0

  clear(): void {
    this.count = this.must = 0
  }

  /** Adds a half-plane. @param holds it must hold: nothing may be gained by breaking it. Such ones are added first. */
  add(px: number, py: number, dx: number, dy: number, holds = false): void {
    if (this.count * 4 === this.plane.length) {
      const grown = new Float64Array(this.plane.length * 2)
      grown.set(this.plane)
      this.plane = grown
      this.spare = new Float64Array(grown.length)
    }
    const { plane, count } = this
    const n = count * 4
    plane[n] = px
    plane[n + 1] = py
    plane[n + 2] = dx
    plane[n + 3] = dy
    this.count++
    if (holds) this.must = this.count
  }

  /** Finds the velocity nearest to (wantX, wantY). */
  solve(wantX: number, wantY: number, most: number): void {
    const failed = this.within(this.plane, this.count, wantX, wantY, most, false)
    if (failed < this.count) this.least(failed, most)
  }

  /** @returns the number of planes, or the first that cannot be kept */
  private within(plane: Float64Array, count: number, wx: number, wy: number, most: number, along: boolean): number {
    const speed2 = wx * wx + wy * wy
    if (along) {
      // A direction: as far that way as may be.
      this.x = wx * most
      this.y = wy * most
    } else if (speed2 > most * most) {
      const s = most / Math.sqrt(speed2)
      this.x = wx * s
      this.y = wy * s
    } else {
      this.x = wx
      this.y = wy
    }
    for (let i = 0; i < count; i++) {
      if (this.left(plane, i) >= -EPS) continue
      const x = this.x
      const y = this.y
      if (!this.onLine(plane, i, wx, wy, most, along)) {
        this.x = x
        this.y = y
        return i
      }
    }
    return count
  }

  /** How far what was found lies inside a half-plane. */
  private left(plane: Float64Array, i: number): number {
    const n = i * 4
    return plane[n + 2] * (this.y - plane[n + 1]) - plane[n + 3] * (this.x - plane[n])
  }

  /** The best place on the edge of a half-plane within those before it. */
  private onLine(plane: Float64Array, i: number, wx: number, wy: number, most: number, along: boolean): boolean {
    const px = plane[i * 4]
    const py = plane[i * 4 + 1]
    const dx = plane[i * 4 + 2]
    const dy = plane[i * 4 + 3]
    const dot = px * dx + py * dy
    const root = dot * dot + most * most - (px * px + py * py)
    if (root < 0) return false
    const half = Math.sqrt(root)
    let from = -dot - half
    let to = -dot + half
    for (let k = 0; k < i; k++) {
      const qx = plane[k * 4]
      const qy = plane[k * 4 + 1]
      const ex = plane[k * 4 + 2]
      const ey = plane[k * 4 + 3]
      const across = dx * ey - dy * ex
      const over = ex * (py - qy) - ey * (px - qx)
      if (Math.abs(across) <= 1e-9) {
        if (over < -EPS) return false
        continue
      }
      const t = over / across
      if (across >= 0) to = Math.min(to, t)
      else from = Math.max(from, t)
      if (from > to) return false
    }
    let t: number
    if (along) t = wx * dx + wy * dy > 0 ? to : from
    else t = Math.min(to, Math.max(from, dx * (wx - px) + dy * (wy - py)))
    this.x = px + t * dx
    this.y = py + t * dy
    return true
  }

  /** From the first half-plane that cannot be kept on, breaks those that may be broken by as little as can be. */
  private least(begin: number, most: number): void {
    const { plane, spare } = this
    let distance = 0
    for (let i = begin; i < this.count; i++) {
      if (-this.left(plane, i) <= distance + EPS) continue
      let n = 0
      for (; n < this.must; n++) spare.set(plane.subarray(n * 4, n * 4 + 4), n * 4)
      const [px, py, dx, dy] = [plane[i * 4], plane[i * 4 + 1], plane[i * 4 + 2], plane[i * 4 + 3]]
      for (let k = this.must; k < i; k++) {
        const [qx, qy, ex, ey] = [plane[k * 4], plane[k * 4 + 1], plane[k * 4 + 2], plane[k * 4 + 3]]
        const across = dx * ey - dy * ex
        let x: number
        let y: number
        if (Math.abs(across) <= 1e-9) {
          // The same way: one of them says it all; opposite ways: half way between.
          if (dx * ex + dy * ey > 0) continue
          x = (px + qx) / 2
          y = (py + qy) / 2
        } else {
          const t = (ex * (py - qy) - ey * (px - qx)) / across
          x = px + t * dx
          y = py + t * dy
        }
        const length = Math.sqrt((ex - dx) * (ex - dx) + (ey - dy) * (ey - dy))
        spare.set([x, y, (ex - dx) / length, (ey - dy) / length], n * 4)
        n++
      }
      const [x, y] = [this.x, this.y]
      if (this.within(spare, n, -dy, dx, most, true) < n) {
        this.x = x
        this.y = y
      }
      distance = -this.left(plane, i)
    }
  }
}
