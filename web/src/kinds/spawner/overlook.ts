import * as THREE from 'three'
import type { OverlookPart } from '../../overlook/part'

/** Spawners as standing gates. */
export const part: OverlookPart = {
  reads: (level) => [level.spawners],
  build(tools, level) {
    const group = new THREE.Group()
    for (const [id, s] of Object.entries(level.spawners)) {
      if (s.hidden) continue
      const gate = new THREE.Mesh(
        new THREE.TorusGeometry(0.9, 0.07, 6, 24, Math.PI),
        new THREE.MeshBasicMaterial({ color: tools.paper.colour.ink }),
      )
      gate.rotation.set(Math.PI / 2, s.facingRad + Math.PI / 2, 0, 'XYZ')
      gate.position.copy(tools.local(s.at, 0.02))
      gate.name = id
      group.add(gate)
    }
    return group
  },
}
