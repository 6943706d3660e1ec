import type { Box2 } from '@tidytrail/core/geometry'
import { MESH, type BarList } from './bars'
import type { WallTriangle } from './mesh-columns'
import type { ReachSource } from './source'

/** A triangle no wider than this on the map stands upright: it is a line there, metres. */
const UPRIGHT_M = 2e-3
/** With more upright triangles about a tile than this they are told by columns, as all others are. */
export const MOST_PLAIN = 12_000
/** Pieces shorter than this are passed over, metres. */
const LEAST_M = 1e-4

/** Does a triangle stand upright, so that it bars bodies as a line does? */
export function isUpright(xyz: ArrayLike<number>): boolean {
  const [ux, uy] = [xyz[3] - xyz[0], xyz[4] - xyz[1]]
  const [vx, vy] = [xyz[6] - xyz[0], xyz[7] - xyz[1]]
  const longest = Math.sqrt(Math.max(ux * ux + uy * uy, vx * vx + vy * vy, (ux - vx) ** 2 + (uy - vy) ** 2))
  return longest > LEAST_M && Math.abs(ux * vy - uy * vx) <= longest * UPRIGHT_M
}

interface Piece {
  ax: number
  ay: number
  bx: number
  by: number
  /** Lowest and highest it stands at a, then at b, metres. */
  z: [number, number, number, number]
}

/** The bars of upright triangles of meshes: what of them is higher than a step holds bodies off, exactly. */
export function meshBars(source: ReachSource, walls: readonly WallTriangle[], box: Box2, into: BarList): void {
  const pieces = new Map<string, Piece[]>()
  const { body, heightM, stepM, bandM } = source
  const getsOverM = body.flies ? bandM[1] - bandM[0] : stepM
  for (const wall of walls) {
    if (!wall.upright) continue
    for (const piece of piecesOf(wall.xyz)) {
      if (Math.max(piece.ax, piece.bx) < box.minX || Math.min(piece.ax, piece.bx) > box.maxX) continue
      if (Math.max(piece.ay, piece.by) < box.minY || Math.min(piece.ay, piece.by) > box.maxY) continue
      const mm = (m: number) => Math.round(m * 1000)
      const key = `${wall.mesh} ${mm(piece.ax)} ${mm(piece.ay)} ${mm(piece.bx)} ${mm(piece.by)}`
      const known = pieces.get(key)
      // The two halves of a rectangle are one piece: what both hold off is not parted by a body's height.
      const other = known?.find((p) => touches(p.z, piece.z, heightM - getsOverM))
      if (other) {
        other.z = [
          Math.min(other.z[0], piece.z[0]),
          Math.max(other.z[1], piece.z[1]),
          Math.min(other.z[2], piece.z[2]),
          Math.max(other.z[3], piece.z[3]),
        ]
      } else if (known) known.push(piece)
      else pieces.set(key, [piece])
    }
  }
  for (const [key, list] of pieces) {
    const mesh = Number(key.slice(0, key.indexOf(' ')))
    for (const { ax, ay, bx, by, z } of list) {
      const holds = [z[0] - heightM, z[1] - getsOverM, z[2] - heightM, z[3] - getsOverM]
      if (holds[1] > holds[0] || holds[3] > holds[2]) into.add(ax, ay, bx, by, holds, MESH, mesh)
    }
  }
}

/** Do two stretches of height meet at both ends, or come so near that nobody stands between them? */
function touches(p: readonly number[], q: readonly number[], withinM: number): boolean {
  for (const k of [0, 2]) {
    if (p[k] > q[k + 1] + withinM || q[k] > p[k + 1] + withinM) return false
  }
  return true
}

/** An upright triangle as at most two pieces of a line, each with its lowest and highest at its ends. */
function piecesOf(xyz: ArrayLike<number>): Piece[] {
  const corners = [0, 3, 6].map((k) => ({ x: xyz[k], y: xyz[k + 1], z: xyz[k + 2] }))
  const alongX =
    Math.max(...corners.map((c) => c.x)) - Math.min(...corners.map((c) => c.x)) >=
    Math.max(...corners.map((c) => c.y)) - Math.min(...corners.map((c) => c.y))
  corners.sort((p, q) => (alongX ? p.x - q.x : p.y - q.y))
  const [a, m, b] = corners
  const at = (c: (typeof corners)[number]) => (alongX ? c.x : c.y)
  const share = (at(m) - at(a)) / (at(b) - at(a))
  // Where the long side is at the middle corner.
  const opposite = a.z + (b.z - a.z) * share
  const low = Math.min(m.z, opposite)
  const high = Math.max(m.z, opposite)
  const long = Math.sqrt((b.x - a.x) ** 2 + (b.y - a.y) ** 2)
  const pieces: Piece[] = []
  if (share * long > LEAST_M) pieces.push({ ax: a.x, ay: a.y, bx: m.x, by: m.y, z: [a.z, a.z, low, high] })
  if ((1 - share) * long > LEAST_M) pieces.push({ ax: m.x, ay: m.y, bx: b.x, by: b.y, z: [low, high, b.z, b.z] })
  return pieces
}
