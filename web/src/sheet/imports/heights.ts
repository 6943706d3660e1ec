import { changeSettings, setHeights, type EditResult, type Level } from '@tidytrail/core/level'
import { count, metres } from '../../ui/figures'
import type { HeightsImport } from '../../workers/importer.protocol'
import HeightsForm from './HeightsForm.vue'
import type { ImportForm, ImportKind } from './import-form'

const sizeOf = ({ columns, rows }: HeightsImport, { spacingM }: ImportForm) => ({
  wide: (columns - 1) * spacingM,
  deep: (rows - 1) * spacingM,
})

export const heightsImport: ImportKind<HeightsImport> = {
  gives: 'heights',
  form: HeightsForm,
  rereads: (format, { lowM, highM }) => (format.gives === 'heights' && format.ranged ? [lowM, highM] : []),
  read: (importer, format, { bytes }, { lowM, highM }) => importer.heights(format.id, bytes, { lowM, highM }),
  settle(form, { spacingM }) {
    if (spacingM) form.spacingM = spacingM
  },
  facts(read, form) {
    const { wide, deep } = sizeOf(read, form)
    const samples = count(read.columns * read.rows, 'sample')
    return `${samples}, ${metres(wide)} × ${metres(deep)}, from ${read.lowM.toFixed(2)} to ${read.highM.toFixed(2)} m`
  },
  repairs: ({ repairs }) => repairs,
  shown: (read, form) => ({ kind: 'shade', preview: read.preview, x: form.x, y: form.y, ...sizeOf(read, form) }),
  async carryOut(read, form, file, { assets, levels }) {
    const assetId = await assets.put(read.packed)
    const { x, y, spacingM } = form
    const { wide, deep } = sizeOf(read, form)
    const heights = { originX: x, originY: y, spacingM, rows: [], assetId, changed: {} }
    const steps: ((l: Level) => EditResult)[] = [(l) => setHeights.apply(l, { heights })]
    if (form.fitExtent) {
      const extent = { minX: x, minY: y, maxX: x + wide, maxY: y + deep }
      steps.push((l) => changeSettings.apply(l, { set: { extent } }))
    }
    levels.together(`Import heights from ${file.name}`, steps)
    return undefined
  },
}
