import { boxOf, toMillimetre } from '@tidytrail/core/geometry'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { layLaneMap, type LaneMap } from '@tidytrail/core/traffic'
import { randomId } from '../../stores/random-id'
import { count, metres } from '../../ui/figures'
import type { ImportKind } from './import-form'
import LanesForm from './LanesForm.vue'
import { putInTheMiddle, widened } from './place-in-level'

const boxOfLanes = ({ lanes }: LaneMap) => boxOf(lanes.flatMap((l) => l.points))

/** Lanes out of a file: each one a lane of the level, joined and settled, in one step. */
export const lanesImport: ImportKind<LaneMap> = {
  gives: 'lanes',
  form: LanesForm,
  rereads: () => [],
  read: (importer, format, { bytes }) => importer.lanes(format.id, bytes),
  settle(form, read, { settings: { extent } }) {
    putInTheMiddle(form, boxOfLanes(read), extent)
    // The ground of the place is not in the file: at its heights they would hang above that of the level.
    form.useHeights = false
  },
  facts({ lanes, joins, wide }) {
    return `${count(lanes.length, 'lane')}, ${count(joins.length, 'join')}; ${metres(wide[0])} by ${metres(wide[1])}`
  },
  repairs: ({ repairs }) => repairs,
  shown({ lanes, joins }, { x, y }) {
    const line = { shape: 'line' as const, name: '', zs: undefined, heightM: undefined }
    const lines = [...lanes.map((l) => l.points), ...joins.flatMap((j) => (j.way ? [j.way] : []))]
    const features = lines.map((points) => ({ ...line, points: points.map(([px, py]): [number, number] => [px, py]) }))
    return { kind: 'shapes', features, x, y }
  },
  async carryOut(read, form, file, { levels, sheet }) {
    const terrain = terrainOf(levels.doc)
    const zAt = (x: number, y: number) => toMillimetre(floorsAt(terrain, x, y).at(-1)!.z)
    const steps = layLaneMap(read, [form.x, form.y], (kind) => randomId(kind), form.useHeights ? undefined : zAt)
    if (form.fitExtent) steps.unshift(widened(levels.doc, boxOfLanes(read), form))
    if (!levels.together(`Import ${file.name}`, steps)) return 'The level cannot hold all of it.'
    sheet.choose([])
    return undefined
  },
}
