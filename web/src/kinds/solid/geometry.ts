import { terrainOf, topAt, type SolidShape } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { ShapeUtils, Vector2 } from 'three'
import * as THREE from 'three'

/** Triangles of many solids in one, knowing which triangle is whose. */
export interface SolidsGeometry {
  readonly faces: THREE.BufferGeometry
  readonly edges: THREE.BufferGeometry
  /** The solid each triangle belongs to. */
  readonly owner: readonly string[]
}

/** All solids of a level, those hidden left out; places are told from an origin. */
export function solidsGeometry(level: Level, origin: THREE.Vector3, only?: ReadonlySet<string>): SolidsGeometry {
  const positions: number[] = []
  const lines: number[] = []
  const owner: string[] = []
  for (const shape of terrainOf(level).solids) {
    if (level.solids[shape.id]?.hidden || (only && !only.has(shape.id))) continue
    addSolid(shape, origin, positions, lines, owner)
  }
  const faces = new THREE.BufferGeometry()
  faces.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3))
  faces.computeVertexNormals()
  const edges = new THREE.BufferGeometry()
  edges.setAttribute('position', new THREE.Float32BufferAttribute(lines, 3))
  return { faces, edges, owner }
}

function addSolid(shape: SolidShape, o: THREE.Vector3, positions: number[], lines: number[], owner: string[]): void {
  const { ring, baseM, id } = shape
  const n = ring.length
  const low = ring.map(([x, y]) => [x - o.x, y - o.y, baseM - o.z])
  const high = ring.map(([x, y]) => [x - o.x, y - o.y, topAt(shape, x, y) - o.z])
  const put = (...corners: number[][]) => {
    for (const c of corners) positions.push(c[0], c[1], c[2])
    owner.push(id)
  }
  const cut = ShapeUtils.triangulateShape(
    ring.map(([x, y]) => new Vector2(x, y)),
    [],
  )
  for (const [a, b, c] of cut) {
    put(high[a], high[b], high[c])
    put(low[a], low[c], low[b])
  }
  // Round things have no edges along their sides.
  const round = n > 16
  for (let a = n - 1, b = 0; b < n; a = b++) {
    put(low[a], low[b], high[b])
    put(low[a], high[b], high[a])
    lines.push(...high[a], ...high[b], ...low[a], ...low[b])
    if (!round) lines.push(...low[a], ...high[a])
  }
}
