import * as THREE from 'three'
import type { OverlookPart } from '../../overlook/part'

export const part: OverlookPart = {
  reads: (level) => [level.reachAreas, level.ground],
  build(tools, level) {
    const group = new THREE.Group()
    for (const a of Object.values(level.reachAreas))
      if (!a.hidden) group.add(tools.fat(tools.drape(level, a.ring), tools.paper.colour.pine, 2, true))
    return group
  },
}
