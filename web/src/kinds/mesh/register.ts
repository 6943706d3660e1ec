import { meshAsset } from '@tidytrail/core/ground'
import type { Mesh } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useAssetStore } from '../../stores/assets'
import { count } from '../../ui/figures'
import GroundFoot from '../GroundFoot.vue'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'

export const register: Register = {
  id: 'meshes',
  stage: 'ground',
  name: 'Meshes',
  find: 'Find among the meshes',
  symbol: strokeSymbol(() => [{ d: 'M2 13L8 3l6 7 3-5 4 8zM8 3l-1 10M14 10l-1 3', ink: 'ink', width: 1.1 }]),
  foot: GroundFoot,
  use() {
    const assets = useAssetStore()
    return {
      ...useCollection('meshes'),
      rows: useRows('meshes', (m: Mesh) => {
        void assets.version
        const triangles = (meshAsset(m.assetId)?.data.indices.length ?? 0) / 3
        const detail = triangles > 0 ? `mesh · ${count(triangles, 'triangle')}` : 'mesh · being fetched'
        return { detail, size: triangles }
      }),
      empty: computed(() => 'No mesh yet. Import a glTF or OBJ file of the place.'),
    }
  },
}
