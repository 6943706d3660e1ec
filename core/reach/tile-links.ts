import { exact } from '@tidytrail/core/geometry'
import { GROUND } from '@tidytrail/core/ground'
import { LOW, NONE, OFF_LIMITS, OUTSIDE, STANDS } from './tile'
import { TileWalls } from './tile-walls'
import { EPS } from './tile-window'

/** Links the floors of neighbouring columns, and tells where one ends at an outline that is known exactly. */
export class TileLinks extends TileWalls {
  /** May one go from a floor to its neighbour at another height? */
  protected mayRise(f: number, g: number, dz: number): boolean {
    const { body, stepM, cellM, terrain } = this.source
    if (dz <= stepM + EPS || body.flies) return true
    const a = this.surface[f]
    const b = this.surface[g]
    // One and the same slope may rise more than a step from column to column.
    if (a === b) return a >= GROUND || dz <= 1.25 * cellM * Math.max(this.rise[f], this.rise[g])
    if (a < 0 || b < 0 || !this.sameFlight(a, b)) return false
    const flight = terrain.solids[a].flight!
    const [p, q] = terrain.solids[a].ring
    const treadM = exact.hypot(q[0] - p[0], q[1] - p[1])
    return dz <= flight.riserM * Math.ceil((1.5 * cellM) / treadM) + EPS
  }

  /** Are two solids one and the same to somebody walking on either: itself, or steps of one flight they can climb? */
  protected sameFlight(a: number, b: number): boolean {
    if (a === b) return true
    const { solids } = this.source.terrain
    const { flight } = solids[a]
    return flight !== undefined && flight === solids[b]?.flight && flight.riserM <= this.source.stepM + EPS
  }

  protected linkFloors(): void {
    const { side, start, z, ceiling, stand, links } = this
    const { heightM } = this.source
    links.fill(NONE, 0, this.floors * 4)
    for (let j = 0; j < side; j++) {
      for (let i = 0; i < side; i++) {
        const column = j * side + i
        for (let d = 0; d < 2; d++) {
          if (d === 0 ? i === side - 1 : j === side - 1) continue
          const other = d === 0 ? column + 1 : column + side
          for (let f = start[column]; f < start[column + 1]; f++) {
            if (stand[f] !== STANDS) continue
            let best = -1
            let bestDz = Infinity
            for (let g = start[other]; g < start[other + 1]; g++) {
              if (stand[g] !== STANDS) continue
              const dz = Math.abs(z[f] - z[g])
              if (dz >= bestDz || !this.mayRise(f, g, dz)) continue
              if (Math.min(ceiling[f], ceiling[g]) - Math.max(z[f], z[g]) < heightM - EPS) continue
              best = g
              bestDz = dz
            }
            if (best < 0) continue
            const overM = Math.max(this.overM(f), this.overM(best))
            if (this.wallBetween(column * 2 + d, overM, Math.min(z[f], z[best]) + heightM)) continue
            // Two floors close together may both want the same neighbour; the one nearer in height has it.
            const rival = links[best * 4 + d + 2]
            if (rival !== NONE) {
              const taken = start[column] + rival
              if (Math.abs(z[taken] - z[best]) <= bestDz) continue
              links[taken * 4 + d] = NONE
            }
            links[f * 4 + d] = best - start[other]
            links[best * 4 + d + 2] = f - start[column]
          }
        }
      }
    }
  }

  /** Does a floor end towards a column at an exact outline, which keeps its bodies away by itself? */
  protected endsAtOutline(f: number, column: number, heightM: number): boolean {
    const { start, z, ceiling, surface, stand } = this
    const { meshes } = this.source.terrain
    if (start[column] === start[column + 1]) return true
    if (surface[f] >= 0) return !this.risesThrough(f, column)
    if (surface[f] < GROUND) return false
    let solid = false
    for (let g = start[column]; g < start[column + 1]; g++) {
      if (stand[g] === OUTSIDE || stand[g] === OFF_LIMITS) return true
      if (surface[g] >= 0) solid = true
      // The ground goes on there: it is too low under something, or it is the ground itself that ends the walk.
      if (surface[g] === GROUND)
        return stand[g] === LOW && ceiling[g] < Math.max(z[f], z[g]) + heightM && meshes.length === 0
      if (surface[g] < GROUND) return false
    }
    return solid
  }

  /** Does the ground, or a mesh, come up through the top of a solid between a floor on it and a column it reaches to? */
  protected risesThrough(f: number, column: number): boolean {
    const { start, z, surface, span } = this
    let covers = false
    for (let s = this.head[column]; s >= 0 && !covers; s = span.next[s]) covers = span.surface[s] === surface[f]
    if (!covers) return false
    for (let g = start[column]; g < start[column + 1]; g++) {
      if (surface[g] === surface[f]) return false
      if (z[g] >= z[f] - EPS) return surface[g] < 0
    }
    return false
  }
}
