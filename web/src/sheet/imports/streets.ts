import { textOf } from '@tidytrail/core/formats'
import { boxOf, toMillimetre } from '@tidytrail/core/geometry'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { layStreets, type StreetMap } from '@tidytrail/core/traffic'
import { randomId } from '../../stores/random-id'
import { count, metres } from '../../ui/figures'
import type { ImportKind } from './import-form'
import { putInTheMiddle, widened } from './place-in-level'
import StreetsForm from './StreetsForm.vue'

const boxOfStreets = ({ streets, rings }: StreetMap) => boxOf([...streets, ...rings].flatMap((s) => s.points))

/** Streets out of a file: roads with their lanes, joined and settled, in one step. */
export const streetsImport: ImportKind<StreetMap> = {
  gives: 'streets',
  form: StreetsForm,
  rereads: () => [],
  read: (importer, format, { bytes }) => importer.streets(format.id, textOf(bytes)),
  settle(form, read, { settings: { extent } }) {
    putInTheMiddle(form, boxOfStreets(read), extent)
  },
  facts({ streets, rings, wide }) {
    const parts = [count(streets.length, 'street'), ...(rings.length > 0 ? [count(rings.length, 'roundabout')] : [])]
    return `${parts.join(', ')}; ${metres(wide[0])} by ${metres(wide[1])}`
  },
  repairs: ({ repairs }) => repairs,
  shown({ streets, rings }, { x, y }) {
    const line = { shape: 'line' as const, name: '', zs: undefined, heightM: undefined }
    const features = [
      ...streets.map((s) => ({ ...line, points: s.points })),
      ...rings.map((r) => ({ ...line, points: [...r.points, r.points[0]] })),
    ]
    return { kind: 'shapes', features, x, y }
  },
  async carryOut(read, form, file, { levels, sheet }) {
    const terrain = terrainOf(levels.doc)
    const zAt = (x: number, y: number) => toMillimetre(floorsAt(terrain, x, y).at(-1)!.z)
    const { steps, repairs } = layStreets(read, [form.x, form.y], (kind) => randomId(kind), zAt)
    if (steps.length === 0) return 'Nothing would come of it: no street is long enough to be a road.'
    if (form.fitExtent) steps.unshift(widened(levels.doc, boxOfStreets(read), form))
    if (!levels.together(`Import ${file.name}`, steps)) return 'The level cannot hold all of it.'
    sheet.choose([])
    sheet.hint = repairs.slice(0, 3).join('; ')
    return undefined
  },
}
