import { toMillimetre } from '@tidytrail/core/geometry'
import {
  addThings,
  changeSettings,
  coverSchema,
  setHeights,
  topRank,
  type EditResult,
  type Level,
} from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { count, metres } from '../../ui/figures'
import type { HeightsImport } from '../../workers/importer.protocol'
import HeightsForm from './HeightsForm.vue'
import type { ImportForm, ImportKind } from './import-form'

/** Heights smaller than this are not what anybody means, metres. */
const LEAST_M = 2

const sizeOf = ({ columns, rows }: HeightsImport, { spacingM }: ImportForm) => ({
  wide: (columns - 1) * spacingM,
  deep: (rows - 1) * spacingM,
})

export const heightsImport: ImportKind<HeightsImport> = {
  gives: 'heights',
  form: HeightsForm,
  rereads: (format, { lowM, highM, channel, cells, holes }) =>
    format.gives === 'heights' && format.ranged ? [lowM, highM, channel] : [cells, holes],
  async read(importer, format, { bytes }, form, first) {
    const { lowM, highM, channel, holes } = form
    const cells = first || form.cells === '' ? undefined : form.cells
    const read = await importer.heights(format.id, bytes, { lowM, highM, channel, holes, cells })
    // What the cells are in decides how far apart they are.
    if (read.spacingM) form.spacingM = read.spacingM
    return read
  },
  settle(form, { cells }) {
    form.cells = cells ?? ''
  },
  facts(read, form) {
    const { wide, deep } = sizeOf(read, form)
    const samples = count(read.columns * read.rows, 'sample')
    return `${samples}, ${metres(wide)} × ${metres(deep)}, from ${read.lowM.toFixed(2)} to ${read.highM.toFixed(2)} m`
  },
  repairs: ({ repairs }) => repairs,
  shown: (read, form) => ({ kind: 'shade', preview: read.preview, x: form.x, y: form.y, ...sizeOf(read, form) }),
  async carryOut(read, form, file, { assets, levels }) {
    const small = sizeOf(read, form)
    if (Math.max(small.wide, small.deep) < LEAST_M)
      return `These heights would be ${(small.wide * 100).toFixed(0)} × ${(small.deep * 100).toFixed(0)} cm: are their cells in degrees, or farther apart?`
    const assetId = await assets.put(read.packed)
    const { x, y, spacingM } = form
    const { wide, deep } = sizeOf(read, form)
    const heights = { originX: x, originY: y, spacingM, rows: [], assetId, changed: {} }
    const steps: ((l: Level) => EditResult)[] = [(l) => setHeights.apply(l, { heights })]
    if (form.fitExtent) {
      const extent = { minX: x, minY: y, maxX: x + wide, maxY: y + deep }
      steps.push((l) => changeSettings.apply(l, { set: { extent } }))
    }
    const rank = topRank(levels.doc.covers)
    const covers = read.holes.map((ring, k) => ({
      in: 'covers' as const,
      id: randomId('covers'),
      thing: coverSchema.parse({
        name: `No data ${k + 1}`,
        kind: 'off-limits',
        ring: ring.map(([i, j]) => [toMillimetre(x + i * spacingM), toMillimetre(y + j * spacingM)]),
        rank: rank + k,
      }),
    }))
    if (covers.length > 0) steps.push((l) => addThings.apply(l, { things: covers }))
    levels.together(`Import heights from ${file.name}`, steps)
    return undefined
  },
}
