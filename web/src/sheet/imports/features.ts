import { makeFromGeo, type GeoFrame, type GeoRead } from '@tidytrail/core/formats'
import { toMillimetre } from '@tidytrail/core/geometry'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { addThings, topRank } from '@tidytrail/core/level'
import { randomId } from '../../stores/random-id'
import { count } from '../../ui/figures'
import FeaturesForm from './FeaturesForm.vue'
import type { ImportForm, ImportKind } from './import-form'

const frameOf = ({ units, originLon, originLat }: ImportForm): GeoFrame =>
  units === 'metres' ? { units } : { units, originLon, originLat }

/** Coordinates that look like degrees are taken for such, about the first of them. */
function guessFrame(form: ImportForm, text: string): void {
  const first = /\[\s*(-?\d+(?:\.\d+)?)\s*,\s*(-?\d+(?:\.\d+)?)/.exec(text)
  if (!first) return
  const [lon, lat] = [Number(first[1]), Number(first[2])]
  const decimals = /\.\d{4,}/.test(first[0])
  if (!decimals || Math.abs(lon) > 180 || Math.abs(lat) > 90) return
  form.units = 'degrees'
  form.originLon = Math.round(lon * 1000) / 1000
  form.originLat = Math.round(lat * 1000) / 1000
}

const SHAPES = ['polygon', 'line', 'point'] as const

export const featuresImport: ImportKind<GeoRead> = {
  gives: 'features',
  form: FeaturesForm,
  rereads: (_format, { units, originLon, originLat }) => [units, originLon, originLat],
  read(importer, format, { bytes }, form, first) {
    const text = new TextDecoder().decode(bytes)
    if (first) guessFrame(form, text)
    return importer.geo(format.id, text, frameOf(form))
  },
  settle(form) {
    form.x = form.y = 0
  },
  facts({ features }) {
    const counts = SHAPES.map((shape) => [features.filter((f) => f.shape === shape).length, shape] as const)
    return counts
      .filter(([n]) => n > 0)
      .map(([n, shape]) => count(n, shape))
      .join(', ')
  },
  repairs: ({ repairs }) => repairs,
  shown: ({ features }, { x, y }) => ({ kind: 'shapes', features, x, y }),
  async carryOut({ features }, form, file, { levels, sheet }) {
    const terrain = terrainOf(levels.doc)
    const zAt = (x: number, y: number) => toMillimetre(floorsAt(terrain, x, y).at(-1)!.z)
    const { polygons, lines, heightM, wallM, coverKind } = form
    const shift = [form.x, form.y] as const
    const coverRank = topRank(levels.doc.covers)
    const mapping = { polygons, lines, heightM, wallM, coverKind, coverRank, shift }
    const things = makeFromGeo(features, mapping, (kind) => randomId(kind), zAt)
    if (things.length === 0) return 'Nothing would come of it: say what polygons and lines are to become.'
    levels.perform(addThings, { things, label: `Import ${file.name}` })
    sheet.choose([])
    return undefined
  },
}
