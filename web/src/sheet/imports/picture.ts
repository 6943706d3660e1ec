import { pictureHead } from '@tidytrail/core/formats'
import { addThing, freshNameFor, topRank, underlaySchema } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { baseName, type ImportKind } from './import-form'
import PictureForm from './PictureForm.vue'

interface PictureRead {
  readonly width: number
  readonly height: number
  readonly bitmap: ImageBitmap
}

export const pictureImport: ImportKind<PictureRead> = {
  gives: 'picture',
  form: PictureForm,
  rereads: () => [],
  async read(_importer, _format, { bytes }) {
    const { width, height } = pictureHead(bytes)
    const bitmap = await createImageBitmap(new Blob([bytes])).catch(() => {
      throw new Error('the picture is damaged or cut off')
    })
    return { width, height, bitmap }
  },
  facts: ({ width, height }) => `${width} × ${height} pixels`,
  repairs: () => [],
  shown: ({ bitmap, width, height }, { x, y, widthM }) => ({
    kind: 'picture',
    bitmap,
    x,
    y,
    wide: widthM,
    deep: (widthM * height) / width,
  }),
  async carryOut({ width }, { x, y, widthM }, file, { assets, levels, sheet }) {
    const assetId = await assets.put(file.bytes)
    const id = randomId('underlays')
    const thing = underlaySchema.parse({
      name: freshNameFor(levels.doc.underlays, baseName(file)),
      assetId,
      at: [x, y],
      metresPerPixel: widthM / width,
      rank: topRank(levels.doc.underlays),
    })
    levels.perform(addThing, { in: 'underlays', id, thing })
    sheet.choose([id])
    return undefined
  },
}
