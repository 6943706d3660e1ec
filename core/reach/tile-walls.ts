import { type SolidShape } from '@tidytrail/core/ground'
import { wallAcross } from './mesh-columns'

import { TileFloors } from './tile-floors'
import { EPS } from './tile-window'

/** Finds walls thinner than a column, which stand between two columns rather than in one. */
export class TileWalls extends TileFloors {
  /** Notes which faces between two columns an outline crosses, so that walls thinner than a column still count. */
  protected findThin(solids: readonly SolidShape[], i0: number, j0: number): void {
    this.thin.fill(0)
    this.thinBy.clear()
    const { side } = this
    const { cellM } = this.source
    const note = (face: number, k: number) => {
      this.thin[face] = 1
      const list = this.thinBy.get(face)
      if (list) list.push(k)
      else this.thinBy.set(face, [k])
    }
    for (let k = 0; k < solids.length; k++) {
      const { ring } = solids[k]
      for (let a = ring.length - 1, b = 0; b < ring.length; a = b++) {
        const [ax, ay] = ring[a]
        const [bx, by] = ring[b]
        for (const [u0, v0, u1, v1, across] of [
          [ax, ay, bx, by, 0],
          [ay, ax, by, bx, 1],
        ]) {
          if (v0 === v1) continue
          const origin = across ? this.x(i0, 0) : this.y(j0, 0)
          const other = across ? this.y(j0, 0) : this.x(i0, 0)
          const from = Math.max(0, Math.ceil((Math.min(v0, v1) - origin) / cellM))
          const to = Math.min(side - 1, Math.floor((Math.max(v0, v1) - origin) / cellM))
          for (let line = from; line <= to; line++) {
            const u = u0 + ((u1 - u0) * (origin + line * cellM - v0)) / (v1 - v0)
            const cell = Math.floor((u - other) / cellM)
            if (cell < 0 || cell >= side - 1) continue
            note((across ? cell * side + line : line * side + cell) * 2 + across, k)
          }
        }
      }
    }
    this.thinShapes = solids
  }

  protected thinShapes: readonly SolidShape[] = []

  /** Notes which faces steep triangles cross, and from what height to what. */
  protected findThinMeshes(i0: number, j0: number): void {
    this.thinMesh.clear()
    this.thinUpright.clear()
    const { side } = this
    const { cellM } = this.source
    const cut = new Float64Array(2)
    for (const wall of this.walls) {
      const { xyz } = wall
      for (const across of [0, 1]) {
        const u = across
        const v = 1 - across
        const origin = across ? this.x(i0, 0) : this.y(j0, 0)
        const other = across ? this.y(j0, 0) : this.x(i0, 0)
        const lowV = Math.min(xyz[v], xyz[3 + v], xyz[6 + v])
        const highV = Math.max(xyz[v], xyz[3 + v], xyz[6 + v])
        const lowU = Math.min(xyz[u], xyz[3 + u], xyz[6 + u])
        const highU = Math.max(xyz[u], xyz[3 + u], xyz[6 + u])
        const from = Math.max(0, Math.ceil((lowV - origin) / cellM))
        const to = Math.min(side - 1, Math.floor((highV - origin) / cellM))
        const first = Math.max(0, Math.floor((lowU - other) / cellM))
        const last = Math.min(side - 2, Math.floor((highU - other) / cellM))
        for (let line = from; line <= to; line++) {
          for (let cell = first; cell <= last; cell++) {
            const start = other + cell * cellM
            if (!wallAcross(wall, start, start + cellM, origin + line * cellM, across === 0, cut)) continue
            const face = (across ? cell * side + line : line * side + cell) * 2 + across
            this.thin[face] = 1
            const list = this.thinMesh.get(face)
            if (list) list.push(cut[0], cut[1])
            else this.thinMesh.set(face, [cut[0], cut[1]])
            if (wall.upright) this.thinUpright.add(face)
          }
        }
      }
    }
  }

  protected readonly thinMesh = new Map<number, number[]>()
  /** Faces that upright triangles cross, which bar bodies as exact lines. */
  protected readonly thinUpright = new Set<number>()

  /**
   * Does something thinner than a column stand between two floors? It must rise above `overM`, what a body could step
   * or fly over, and begin below its head at `underM`.
   */
  protected wallBetween(face: number, overM: number, underM: number): boolean {
    if (this.thin[face] === 0) return false
    for (const k of this.thinBy.get(face) ?? []) {
      const shape = this.thinShapes[k]
      if (shape.topM > overM + EPS && shape.baseM < underM && shape.riseX === 0 && shape.riseY === 0) return true
    }
    const list = this.thinMesh.get(face)
    if (!list) return false
    for (let k = 0; k < list.length; k += 2) if (list[k + 1] > overM + EPS && list[k] < underM - EPS) return true
    return false
  }

  /** Height up to which a body on a floor gets over things; what rises above it stands in its way. */
  protected overM(f: number): number {
    const { body, heightM, stepM } = this.source
    return body.flies ? this.ceiling[f] - heightM : this.z[f] + stepM
  }
}
