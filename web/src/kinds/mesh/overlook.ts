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
      const { min, max } = asset.lookup
      geometry.boundingBox = new THREE.Box3(new THREE.Vector3(...min), new THREE.Vector3(...max))
      geometry.boundingSphere = geometry.boundingBox.getBoundingSphere(new THREE.Sphere())
      const { sheet, ink } = tools.paper.colour
      const body = new THREE.Mesh(geometry, paperMaterial(sheet, ink, undefined, true))
      body.name = id
      const holder = new THREE.Group()
      holder.add(body)
      if (asset.data.indices.length < 180_000) {
        holder.add(tools.ink(new THREE.EdgesGeometry(geometry, 25), ink, 0.8))
      }
      holder.position.copy(tools.local(mesh.at))
      holder.rotation.z = mesh.turnRad
      holder.scale.setScalar(mesh.scale)
      group.add(holder)
    }
    return group
  },
}
