import * as THREE from 'three'
import type { OverlookPart } from '../../overlook/part'
import { coverLook } from './draw'

export const part: OverlookPart = {
  reads: (level) => [level.covers, level.ground],
  build(tools, level) {
    const group = new THREE.Group()
    for (const c of Object.values(level.covers))
      if (!c.hidden) group.add(tools.fat(tools.drape(level, c.ring), tools.paper.colour[coverLook(c.kind).rim], 2))
    return group
  },
}
