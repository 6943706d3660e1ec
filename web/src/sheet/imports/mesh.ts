import { toMillimetre } from '@tidytrail/core/geometry'
import { heightAt, terrainOf } from '@tidytrail/core/ground'
import { addThing, freshNameFor, meshSchema, type Level } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { count, metres } from '../../ui/figures'
import type { MeshImport } from '../../workers/importer.protocol'
import { baseName, type ImportForm, type ImportKind } from './import-form'
import MeshForm from './MeshForm.vue'

/** Puts a mesh in the middle of the level, its lowest point on the ground there. */
export function centre(form: ImportForm, { min, max }: MeshImport, level: Level): void {
  const { minX, maxX, minY, maxY } = level.settings.extent
  form.x = toMillimetre((minX + maxX) / 2 - (min[0] + max[0]) / 2)
  form.y = toMillimetre((minY + maxY) / 2 - (min[1] + max[1]) / 2)
  form.z = toMillimetre(heightAt(terrainOf(level).field, (minX + maxX) / 2, (minY + maxY) / 2) - min[2])
}

export const meshImport: ImportKind<MeshImport> = {
  gives: 'mesh',
  form: MeshForm,
  rereads: (_format, { upAxis, scale }) => [upAxis, scale],
  read: (importer, format, { bytes, beside }, { upAxis, scale }) =>
    importer.mesh(format.id, bytes, { upAxis, scale }, beside),
  settle: centre,
  facts: ({ min, max, triangles }) =>
    `${count(triangles, 'triangle')}, ${metres(max[0] - min[0])} × ${metres(max[1] - min[1])} and ${metres(max[2] - min[2])} high`,
  repairs: ({ repairs }) => repairs,
  shown: ({ plan }, { x, y }) => ({ kind: 'mesh', plan, x, y }),
  async carryOut({ packed }, { x, y, z }, file, { assets, levels, sheet }) {
    const assetId = await assets.put(packed)
    const id = randomId('meshes')
    const name = freshNameFor(levels.doc.meshes, baseName(file))
    levels.perform(addThing, { in: 'meshes', id, thing: meshSchema.parse({ name, assetId, at: [x, y, z] }) })
    sheet.choose([id])
    return undefined
  },
}
