import * as THREE from 'three'
import { paperMaterial } from '../../overlook/paper'
import { OF_A_PART, type OverlookPart } from '../../overlook/part'
import { solidsGeometry } from './geometry'

/** Which solid each triangle of the solids is of. */
let solidOwner: readonly string[] = []

export const part: OverlookPart = {
  reads: (level) => [level.solids],
  build(tools, level) {
    const { faces, edges, owner } = solidsGeometry(level, tools.origin)
    solidOwner = owner
    if (owner.length === 0) return undefined
    const group = new THREE.Group()
    const body = new THREE.Mesh(faces, paperMaterial(tools.paper.colour.sheet, tools.paper.colour.ink))
    body.name = OF_A_PART
    group.add(body, tools.ink(edges, tools.paper.colour.ink))
    return group
  },
  edges(tools, level, ids) {
    const of = solidsGeometry(level, tools.origin, ids).edges.getAttribute('position')
    return of.count > 0 ? tools.fat(Array.from(of.array), tools.paper.colour.rust, 3.5) : undefined
  },
  ownerOf: (face) => solidOwner[face],
}
