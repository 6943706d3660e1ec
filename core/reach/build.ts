import { exact, type Point2 } from '@tidytrail/core/geometry'
import { eachSpanAt, GROUND, sampleHeight, surfaceWalkable, topAt, type SolidShape } from '@tidytrail/core/ground'
import { gapToWall, gatherMeshes, wallAcross, type WallTriangle } from './mesh-columns'
import { traceOutline } from './outline'
import { findParts } from './parts'
import type { ReachSource } from './source'
import {
  DEEP,
  DIR_X,
  DIR_Y,
  DRY,
  LOW,
  NONE,
  OFF_LIMITS,
  OUTSIDE,
  SHALLOW,
  SHUT,
  STANDS,
  STEEP,
  TILE,
  type Tile,
} from './tile'

const EPS = 1e-6

/**
 * Builds one tile at a time in arrays it keeps. A tile is worked out over a window a little larger than itself, so it
 * needs nothing of its neighbours and comes out the same whichever order tiles are built in.
 */
export class TileBuilder {
  private readonly apron: number
  private readonly side: number
  private readonly head: Int32Array
  private readonly start: Int32Array
  private readonly mask: Uint8Array
  private readonly thin: Uint8Array
  private readonly thinBy = new Map<number, number[]>()
  private readonly span = {
    next: new Int32Array(0),
    base: new Float64Array(0),
    top: new Float64Array(0),
    surface: new Int32Array(0),
    rise: new Float64Array(0),
  }
  private spans = 0
  private floors = 0
  private z = new Float64Array(0)
  private ceiling = new Float64Array(0)
  private surface = new Int32Array(0)
  /** Rise over run of each floor. */
  private rise = new Float64Array(0)
  private stand = new Uint8Array(0)
  private clearMm = new Uint16Array(0)
  private links = new Uint8Array(0)
  private readonly sample = new Float64Array(3)
  private readonly columns: number
  private readonly rows: number

  constructor(private readonly source: ReachSource) {
    const { cellM, radiusM, extent } = source
    this.apron = Math.ceil(radiusM / cellM) + 2
    this.side = TILE + 2 * this.apron
    const n = this.side * this.side
    this.head = new Int32Array(n)
    this.start = new Int32Array(n + 1)
    this.mask = new Uint8Array(n)
    this.thin = new Uint8Array(n * 2)
    this.columns = Math.max(1, Math.round((extent.maxX - extent.minX) / cellM))
    this.rows = Math.max(1, Math.round((extent.maxY - extent.minY) / cellM))
  }

  /** The tile whose first column is (i0, j0). */
  build(i0: number, j0: number): Tile {
    const solids = this.gatherSpans(i0, j0)
    this.layFloors(i0, j0)
    this.findThin(solids, i0, j0)
    this.findThinMeshes(i0, j0)
    this.linkFloors()
    this.keepAway(solids, i0, j0)
    return this.cut(i0, j0)
  }

  private x(i0: number, i: number): number {
    return this.source.extent.minX + (i0 - this.apron + i + 0.5) * this.source.cellM
  }

  private y(j0: number, j: number): number {
    return this.source.extent.minY + (j0 - this.apron + j + 0.5) * this.source.cellM
  }

  /** First window column whose middle is at or beyond x. */
  private columnFrom(i0: number, x: number): number {
    return Math.ceil((x - this.source.extent.minX) / this.source.cellM - 0.5) - i0 + this.apron
  }

  private rowFrom(j0: number, y: number): number {
    return Math.ceil((y - this.source.extent.minY) / this.source.cellM - 0.5) - j0 + this.apron
  }

  private gatherSpans(i0: number, j0: number): SolidShape[] {
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
    return found.map((k) => terrain.solids[k])
  }

  private walls: WallTriangle[] = []

  private addSpan(column: number, baseM: number, topM: number, surface: number, rise: number): void {
    const s = this.roomForSpan()
    this.span.base[s] = baseM
    this.span.top[s] = topM
    this.span.surface[s] = surface
    this.span.rise[s] = rise
    this.span.next[s] = this.head[column]
    this.head[column] = s
  }

  private eachColumnIn(
    ring: readonly Point2[],
    minY: number,
    maxY: number,
    i0: number,
    j0: number,
    each: (column: number, x: number, y: number) => void,
  ): void {
    const first = Math.max(0, this.rowFrom(j0, minY))
    const last = Math.min(this.side - 1, this.rowFrom(j0, maxY))
    for (let j = first; j <= last; j++) {
      const y = this.y(j0, j)
      eachSpanAt(ring, y, (x0, x1) => {
        const from = Math.max(0, this.columnFrom(i0, x0))
        const to = Math.min(this.side - 1, this.columnFrom(i0, x1) - 1)
        for (let i = from; i <= to; i++) each(j * this.side + i, this.x(i0, i), y)
      })
    }
  }

  private roomForSpan(): number {
    const { span } = this
    if (this.spans === span.next.length) {
      const size = Math.max(4096, span.next.length * 2)
      span.next = grown(span.next, new Int32Array(size))
      span.base = grown(span.base, new Float64Array(size))
      span.top = grown(span.top, new Float64Array(size))
      span.surface = grown(span.surface, new Int32Array(size))
      span.rise = grown(span.rise, new Float64Array(size))
    }
    return this.spans++
  }

  private roomForFloors(count: number): void {
    if (this.z.length >= count) return
    const size = Math.max(count, this.side * this.side, this.z.length * 2)
    this.z = grown(this.z, new Float64Array(size))
    this.ceiling = grown(this.ceiling, new Float64Array(size))
    this.surface = grown(this.surface, new Int32Array(size))
    this.rise = grown(this.rise, new Float64Array(size))
    this.stand = grown(this.stand, new Uint8Array(size))
    this.clearMm = new Uint16Array(size)
    this.links = new Uint8Array(size * 4)
  }

  private layFloors(i0: number, j0: number): void {
    const { source, side, sample } = this
    const { field } = source.terrain
    const level = field.columns === 2 && field.rows === 2 && field.z.every((z) => z === field.z[0])
    const masked = this.layMask(i0, j0)
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
  private judgeFloors(first: number, end: number): number {
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
  private float(first: number, end: number): number {
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

  private layMask(i0: number, j0: number): boolean {
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
  private stackFloors(column: number, groundM: number, groundRise: number, n: number): number {
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

  /** Notes which faces between two columns an outline crosses, so that walls thinner than a column still count. */
  private findThin(solids: readonly SolidShape[], i0: number, j0: number): void {
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

  private thinShapes: readonly SolidShape[] = []

  /** Notes which faces steep triangles cross, and from what height to what. */
  private findThinMeshes(i0: number, j0: number): void {
    this.thinMesh.clear()
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
          }
        }
      }
    }
  }

  private readonly thinMesh = new Map<number, number[]>()

  /**
   * Does something thinner than a column stand between two floors? It must rise above `overM`, what a body could step
   * or fly over, and begin below its head at `underM`.
   */
  private wallBetween(face: number, overM: number, underM: number): boolean {
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
  private overM(f: number): number {
    const { body, heightM, stepM } = this.source
    return body.flies ? this.ceiling[f] - heightM : this.z[f] + stepM
  }

  /** May one go from a floor to its neighbour at another height? */
  private mayRise(f: number, g: number, dz: number): boolean {
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
  private sameFlight(a: number, b: number): boolean {
    if (a === b) return true
    const { solids } = this.source.terrain
    const { flight } = solids[a]
    return flight !== undefined && flight === solids[b]?.flight && flight.riserM <= this.source.stepM + EPS
  }

  private linkFloors(): void {
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

  /** How far every floor is from what its body must keep away from. */
  private keepAway(solids: readonly SolidShape[], i0: number, j0: number): void {
    const { side, start, z, stand, links, clearMm } = this
    const { radiusM, stepM, heightM, cellM, maxRise, body, bandM } = this.source
    const farMm = Math.min(65535, Math.ceil(radiusM * 1000) + 1)
    clearMm.fill(farMm, 0, this.floors)
    for (const shape of solids) this.keepFromSolid(shape, i0, j0)
    for (const wall of this.walls) this.keepFromWall(wall, i0, j0)

    const reachCells = Math.ceil(radiusM / cellM)
    const band = body.flies ? bandM[1] : 2 * stepM + radiusM * Math.min(maxRise, 2)
    for (let j = 0; j < side; j++) {
      for (let i = 0; i < side; i++) {
        const column = j * side + i
        for (let f = start[column]; f < start[column + 1]; f++) {
          if (stand[f] !== STANDS) {
            clearMm[f] = 0
            continue
          }
          for (let d = 0; d < 4; d++) {
            if (links[f * 4 + d] !== NONE) continue
            const ni = i + DIR_X[d]
            const nj = j + DIR_Y[d]
            if (ni < 0 || nj < 0 || ni >= side || nj >= side) continue
            if (!body.flies && this.isSolidWall(nj * side + ni, z[f], stepM, heightM)) continue
            const face = (d < 2 ? column : nj * side + ni) * 2 + (d % 2)
            if (this.wallBetween(face, this.overM(f), z[f] + heightM)) continue
            // The face between the two columns, as seen from this column's middle, in columns.
            const fx = DIR_X[d] / 2
            const fy = DIR_Y[d] / 2
            for (let dj = -reachCells; dj <= reachCells; dj++) {
              const gj = j + dj
              if (gj < 0 || gj >= side) continue
              for (let di = -reachCells; di <= reachCells; di++) {
                const gi = i + di
                if (gi < 0 || gi >= side) continue
                const px = fx !== 0 ? Math.abs(di - fx) : Math.max(0, Math.abs(di) - 0.5)
                const py = fy !== 0 ? Math.abs(dj - fy) : Math.max(0, Math.abs(dj) - 0.5)
                const mm = Math.sqrt(px * px + py * py) * cellM * 1000
                if (mm >= farMm) continue
                const at = gj * side + gi
                for (let g = start[at]; g < start[at + 1]; g++) {
                  if (mm < clearMm[g] && Math.abs(z[g] - z[f]) <= band) clearMm[g] = mm
                }
              }
            }
          }
        }
      }
    }
  }

  /** Is the way into a column barred by a solid, whose exact distance is kept by other means? */
  private isSolidWall(column: number, zM: number, stepM: number, heightM: number): boolean {
    const first = this.start[column]
    for (let g = first; g < this.start[column + 1]; g++) {
      if (this.z[g] > zM + stepM + EPS) return g > first || this.surface[g] !== GROUND
      if (this.ceiling[g] >= zM + heightM - EPS) return false
    }
    return false
  }

  private keepFromSolid(shape: SolidShape, i0: number, j0: number): void {
    const { side, start, z, stand, surface, clearMm } = this
    const { radiusM, heightM, terrain } = this.source
    const { ring } = shape
    for (let a = ring.length - 1, b = 0; b < ring.length; a = b++) {
      const ax = ring[a][0]
      const ay = ring[a][1]
      const dx = ring[b][0] - ax
      const dy = ring[b][1] - ay
      const length2 = dx * dx + dy * dy
      if (length2 === 0) continue
      const minX = Math.min(ax, ax + dx) - radiusM
      const maxX = Math.max(ax, ax + dx) + radiusM
      const i1 = Math.max(0, this.columnFrom(i0, minX))
      const i2 = Math.min(side - 1, this.columnFrom(i0, maxX))
      const j1 = Math.max(0, this.rowFrom(j0, Math.min(ay, ay + dy) - radiusM))
      const j2 = Math.min(side - 1, this.rowFrom(j0, Math.max(ay, ay + dy) + radiusM))
      const slant = exact.hypot(dx, dy)
      for (let j = j1; j <= j2; j++) {
        const y = this.y(j0, j)
        for (let i = i1; i <= i2; i++) {
          const x = this.x(i0, i)
          if (Math.abs((x - ax) * dy - (y - ay) * dx) >= radiusM * slant) continue
          const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2))
          const px = ax + t * dx
          const py = ay + t * dy
          const mm = exact.hypot(x - px, y - py) * 1000
          const at = j * side + i
          for (let f = start[at]; f < start[at + 1]; f++) {
            if (stand[f] !== STANDS || mm >= clearMm[f]) continue
            const k = surface[f]
            const own = k >= 0 ? terrain.solids[k] : undefined
            if (own === shape || (own?.flight && own.flight === shape.flight && this.climbs(own.flight))) continue
            if (topAt(shape, px, py) > this.overM(f) + EPS && shape.baseM < z[f] + heightM - EPS) clearMm[f] = mm
          }
        }
      }
    }
  }

  private climbs(flight: { riserM: number }): boolean {
    return flight.riserM <= this.source.stepM + EPS
  }

  private keepFromWall(wall: WallTriangle, i0: number, j0: number): void {
    const { side, start, z, stand, clearMm } = this
    const { radiusM, heightM } = this.source
    const { xyz } = wall
    const i1 = Math.max(0, this.columnFrom(i0, Math.min(xyz[0], xyz[3], xyz[6]) - radiusM))
    const i2 = Math.min(side - 1, this.columnFrom(i0, Math.max(xyz[0], xyz[3], xyz[6]) + radiusM))
    const j1 = Math.max(0, this.rowFrom(j0, Math.min(xyz[1], xyz[4], xyz[7]) - radiusM))
    const j2 = Math.min(side - 1, this.rowFrom(j0, Math.max(xyz[1], xyz[4], xyz[7]) + radiusM))
    for (let j = j1; j <= j2; j++) {
      for (let i = i1; i <= i2; i++) {
        const at = j * side + i
        for (let f = start[at]; f < start[at + 1]; f++) {
          if (stand[f] !== STANDS || clearMm[f] === 0) continue
          const overM = this.overM(f) + EPS
          const underM = z[f] + heightM - EPS
          if (wall.highM <= overM || wall.lowM >= underM) continue
          const mm = gapToWall(wall, this.x(i0, i), this.y(j0, j), overM, underM) * 1000
          if (mm < clearMm[f]) clearMm[f] = mm
        }
      }
    }
  }

  /** The middle of the window as a tile of its own arrays. */
  private cut(i0: number, j0: number): Tile {
    const { side, apron } = this
    const start = new Uint16Array(TILE * TILE + 1)
    let n = 0
    for (let j = 0; j < TILE; j++) {
      for (let i = 0; i < TILE; i++) {
        start[j * TILE + i] = n
        const column = (j + apron) * side + i + apron
        n += this.start[column + 1] - this.start[column]
      }
    }
    start[TILE * TILE] = n
    const radiusMm = this.source.radiusM * 1000
    const tile = {
      i0,
      j0,
      start,
      z: new Float32Array(n),
      surface: new Int32Array(n),
      stand: new Uint8Array(n),
      clearMm: new Uint16Array(n),
      links: new Uint8Array(n * 4),
      reach: new Uint8Array(n),
    }
    /** For sides on the tile's rim: does the reach go on beyond it? */
    const onward = new Uint8Array(n * 4)
    for (let j = 0; j < TILE; j++) {
      for (let i = 0; i < TILE; i++) {
        const column = (j + apron) * side + i + apron
        const to = start[j * TILE + i]
        const from = this.start[column]
        const count = this.start[column + 1] - from
        for (let q = 0; q < count; q++) {
          const f = from + q
          const t = to + q
          tile.z[t] = this.z[f]
          tile.surface[t] = this.surface[f]
          tile.stand[t] = this.stand[f]
          tile.clearMm[t] = this.clearMm[f]
          tile.reach[t] = this.stand[f] === STANDS && this.clearMm[f] >= radiusMm - 0.5 ? 1 : 0
          for (let d = 0; d < 4; d++) {
            const link = this.links[f * 4 + d]
            tile.links[t * 4 + d] = link
            if (link === NONE) continue
            const ni = i + DIR_X[d]
            const nj = j + DIR_Y[d]
            if (ni >= 0 && nj >= 0 && ni < TILE && nj < TILE) continue
            const g = this.start[column + DIR_X[d] + DIR_Y[d] * side] + link
            if (this.clearMm[g] >= radiusMm - 0.5) onward[t * 4 + d] = 1
          }
        }
      }
    }
    const { part, partSize } = findParts(tile)
    const whole = { ...tile, part, partSize }
    return { ...whole, outline: traceOutline(whole, onward, this.source) }
  }
}

function grown<A extends Int32Array | Float64Array | Uint8Array>(from: A, to: A): A {
  to.set(from)
  return to
}
