import { meshAsset } from '@tidytrail/core/ground'
import * as THREE from 'three'
import { paperMaterial } from '../../overlook/paper'
import type { OverlookPart } from '../../overlook/part'

export const part: OverlookPart = {
  reads: (level) => [level.meshes],
  build(tools, level) {
    const group = new THREE.Group()
    for (const [id, mesh] of Object.entries(level.meshes)) {
      const asset = meshAsset(mesh.assetId)
      if (!asset || mesh.hidden) continue
      const geometry = new THREE.BufferGeometry()
      geometry.setAttribute('position', new THREE.BufferAttribute(asset.data.positions, 3))
      geometry.setIndex(new THREE.BufferAttribute(asset.data.indices, 1))
      const flat = geometry.toNonIndexed()
      flat.computeVertexNormals()
      const body = new THREE.Mesh(flat, paperMaterial(tools.paper.colour.sheet, tools.paper.colour.ink))
      body.name = id
      const holder = new THREE.Group()
      holder.add(body)
      if (asset.data.indices.length < 180_000) {
        holder.add(tools.ink(new THREE.EdgesGeometry(geometry, 25), tools.paper.colour.ink, 0.8))
      }
      geometry.dispose()
      holder.position.copy(tools.local(mesh.at))
      holder.rotation.z = mesh.turnRad
      holder.scale.setScalar(mesh.scale)
      group.add(holder)
    }
    return group
  },
}
