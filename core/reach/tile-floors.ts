import { exact, type Point2 } from '@tidytrail/core/geometry'
import { GROUND, sampleHeight, surfaceWalkable, topAt } from '@tidytrail/core/ground'
import { gatherMeshes, type WallTriangle } from './mesh-columns'
import { DEEP, DRY, LOW, OFF_LIMITS, OUTSIDE, SHALLOW, SHUT, STANDS, STEEP } from './tile'

import { EPS, TileWindow } from './tile-window'

/** Works out the floors of every column, and whether a body can be on each. */
export class TileFloors extends TileWindow {
  /** @returns indexes of the solids that may matter */
  protected gatherSpans(i0: number, j0: number): number[] {
    const { terrain, radiusM } = this.source
    const { side } = this
    const box = {
      minX: this.x(i0, 0) - radiusM,
      minY: this.y(j0, 0) - radiusM,
      maxX: this.x(i0, side - 1) + radiusM,
      maxY: this.y(j0, side - 1) + radiusM,
    }
    const found = terrain.near(box)
    this.spans = 0
    if (found.length > 0) this.head.fill(-1)
    for (const k of found) {
      const shape = terrain.solids[k]
      this.eachColumnIn(shape.ring, shape.box.minY, shape.box.maxY, i0, j0, (column, x, y) => {
        this.addSpan(column, shape.baseM, topAt(shape, x, y), k, exact.hypot(shape.riseX, shape.riseY))
      })
    }
    const window = { x0: this.x(i0, 0), y0: this.y(j0, 0), cellM: this.source.cellM, side }
    let clean = found.length > 0
    this.walls = gatherMeshes(terrain, window, radiusM, this.source.maxRise, (column, base, top, surface, rise) => {
      if (!clean) this.head.fill(-1)
      clean = true
      this.addSpan(column, base, top, surface, rise)
    })
    return found
  }

  protected walls: WallTriangle[] = []

  protected addSpan(column: number, baseM: number, topM: number, surface: number, rise: number): void {
    const s = this.roomForSpan()
    this.span.base[s] = baseM
    this.span.top[s] = topM
    this.span.surface[s] = surface
    this.span.rise[s] = rise
    this.span.next[s] = this.head[column]
    this.head[column] = s
  }

  protected findFloors(i0: number, j0: number): void {
    const { source, side, sample } = this
    const { field } = source.terrain
    const level = field.columns === 2 && field.rows === 2 && field.z.every((z) => z === field.z[0])
    const masked = this.maskColumns(i0, j0)
    this.roomForFloors(side * side + this.spans)
    let n = 0
    for (let j = 0; j < side; j++) {
      const y = this.y(j0, j)
      const rowInside = j0 - this.apron + j >= 0 && j0 - this.apron + j < this.rows
      for (let i = 0; i < side; i++) {
        const column = j * side + i
        this.start[column] = n
        const ci = i0 - this.apron + i
        if (!rowInside || ci < 0 || ci >= this.columns) continue
        if (level) {
          sample[0] = field.z[0]
          sample[1] = sample[2] = 0
        } else sampleHeight(field, this.x(i0, i), y, sample)
        const rise = level ? 0 : Math.sqrt(sample[1] * sample[1] + sample[2] * sample[2])
        const first = n
        if (this.spans > 0 && this.head[column] >= 0) n = this.stackFloors(column, sample[0], rise, n)
        else {
          this.z[n] = sample[0]
          this.ceiling[n] = Infinity
          this.surface[n] = GROUND
          this.rise[n] = rise
          n++
        }
        n = this.judgeFloors(first, n)
        if (masked && this.mask[column] > 0) for (let f = first; f < n; f++) this.stand[f] = this.mask[column]
      }
    }
    this.start[side * side] = n
    this.floors = n
  }

  /** Says of each floor of a column whether a body of the profile's medium can be on it, or over it. */
  protected judgeFloors(first: number, end: number): number {
    const { z, ceiling, surface, stand, rise } = this
    const { body, terrain, heightM, maxRise, lowestM, waterM, draughtM, bandM } = this.source
    if (body.floats && !body.stands) return this.float(first, end)
    for (let f = first; f < end; f++) {
      if (body.flies) {
        const under = Math.max(z[f], waterM)
        z[f] = under + bandM[0]
        ceiling[f] = Math.min(ceiling[f], under + bandM[1] + heightM)
        rise[f] = 0
        stand[f] = ceiling[f] - z[f] < heightM - EPS ? LOW : STANDS
        continue
      }
      let code = STANDS
      const afloat = body.floats && z[f] < lowestM && z[f] <= waterM - draughtM && ceiling[f] > waterM
      if (afloat) {
        z[f] = waterM - draughtM
        rise[f] = 0
      }
      if (ceiling[f] - z[f] < heightM - EPS) code = LOW
      else if (afloat) code = STANDS
      else if (z[f] < lowestM) code = DEEP
      else if (surface[f] !== GROUND && !surfaceWalkable(terrain, surface[f])) code = SHUT
      else if (rise[f] > maxRise) code = STEEP
      stand[f] = code
    }
    return end
  }

  /** Makes of a column's floors the one a boat floats over, its height that of the keel; or says why none does. */
  protected float(first: number, end: number): number {
    const { z, ceiling, stand, rise } = this
    const { heightM, waterM, draughtM } = this.source
    let bed = -1
    for (let f = first; f < end; f++) if (z[f] < waterM && ceiling[f] > waterM) bed = f
    const from = bed < 0 ? end - 1 : bed
    const bedM = z[from]
    const keelM = waterM - draughtM
    z[first] = bed < 0 ? bedM : keelM
    ceiling[first] = ceiling[from]
    this.surface[first] = this.surface[from]
    if (bed < 0) stand[first] = DRY
    else if (bedM > keelM + EPS) stand[first] = SHALLOW
    else stand[first] = ceiling[first] - keelM < heightM - EPS ? LOW : STANDS
    rise[first] = 0
    return first + 1
  }

  protected maskColumns(i0: number, j0: number): boolean {
    const { areas, offLimits } = this.source
    if (areas.length === 0 && offLimits.length === 0) return false
    this.mask.fill(areas.length > 0 ? OUTSIDE : 0)
    const paint = (rings: readonly (readonly Point2[])[], value: number) => {
      for (const ring of rings) {
        const ys = ring.map((p) => p[1])
        this.eachColumnIn(ring, Math.min(...ys), Math.max(...ys), i0, j0, (column) => {
          this.mask[column] = value
        })
      }
    }
    paint(areas, 0)
    paint(offLimits, OFF_LIMITS)
    return true
  }

  /** The floors of a column with solids in it, from the ground up; touching spans are one. */
  protected stackFloors(column: number, groundM: number, groundRise: number, n: number): number {
    const { span, z, ceiling, surface, rise } = this
    const { terrain } = this.source
    let topM = groundM
    let owner = GROUND
    let slope = groundRise
    for (;;) {
      let next = -1
      let joined = false
      for (let s = this.head[column]; s >= 0; s = span.next[s]) {
        if (span.base[s] > topM) {
          if (next < 0 || span.base[s] < span.base[next]) next = s
          continue
        }
        const tie =
          span.top[s] === topM && !surfaceWalkable(terrain, owner) && surfaceWalkable(terrain, span.surface[s])
        if (span.top[s] <= topM && !tie) continue
        topM = span.top[s]
        owner = span.surface[s]
        slope = span.rise[s]
        joined = true
        break
      }
      if (joined) continue
      z[n] = topM
      ceiling[n] = next < 0 ? Infinity : span.base[next]
      surface[n] = owner
      rise[n] = slope
      n++
      if (next < 0) return n
      topM = span.top[next]
      owner = span.surface[next]
      slope = span.rise[next]
    }
  }
}
