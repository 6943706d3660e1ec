import { isHeightGrid, unpackHeights, type HeightGrid } from './height-grid'
import { isMesh, lookUpMesh, unpackMesh, type MeshData, type MeshLookup } from './mesh'

/**
 * What levels refer to by content hash. Since a hash stands for the same bytes for ever, one library serves every level
 * in the process; a level whose assets have not come yet is worked out without them, and again when they have.
 */
const meshes = new Map<string, { data: MeshData; lookup: MeshLookup }>()
const grids = new Map<string, HeightGrid>()
let version = 0

/** Goes up whenever an asset comes. */
export const assetsVersion = () => version

export const hasAsset = (hash: string) => meshes.has(hash) || grids.has(hash)
export const meshAsset = (hash: string) => meshes.get(hash)
export const heightGrid = (hash: string) => grids.get(hash)

/** Takes in a mesh somebody else has looked up already, so that it costs no time here. */
export function provideMesh(hash: string, data: MeshData, lookup: MeshLookup): void {
  if (hasAsset(hash)) return
  meshes.set(hash, { data, lookup })
  version++
}

/**
 * Takes an asset in. Pictures are none of the core's business and passed over.
 * @throws RangeError when the bytes are damaged
 */
export function provideAsset(hash: string, bytes: Uint8Array): void {
  if (hasAsset(hash)) return
  if (isMesh(bytes)) {
    const data = unpackMesh(bytes)
    meshes.set(hash, { data, lookup: lookUpMesh(data) })
  } else if (isHeightGrid(bytes)) grids.set(hash, unpackHeights(bytes))
  else return
  version++
}
