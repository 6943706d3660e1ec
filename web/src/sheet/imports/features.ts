import { fromMercator, isMercator, makeFromGeo, textOf, type GeoFrame, type GeoRead } from '@tidytrail/core/formats'
import { toMillimetre } from '@tidytrail/core/geometry'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { addThings, topRank } from '@tidytrail/core/level'
import { defaultProfile } from '@tidytrail/core/network'
import { randomId } from '../../stores/random-id'
import { count } from '../../ui/figures'
import FeaturesForm from './FeaturesForm.vue'
import type { ImportForm, ImportKind } from './import-form'

const frameOf = ({ units, originLon, originLat, offsetX, offsetY }: ImportForm): GeoFrame =>
  units === 'metres' ? { units, offset: [offsetX, offsetY] } : { units, originLon, originLat }

/** Metres from their origin beyond which coordinates are those of a national grid rather than of a level. */
const FAR_M = 20_000
/** A level covers less than this in degrees; what covers more is in metres. */
const MOST_DEGREES = 2
/** How many places are looked at to tell degrees from metres. */
const LOOKED_AT = 2_000

/**
 * Tells degrees from metres by what the places cover: all of them on the globe, with fractions, and within a degree or
 * two. Metres far from their origin are those of a national grid: an offset is proposed.
 */
export function guessFrame(form: ImportForm, text: string): void {
  const places: [number, number][] = []
  const pattern = /\[\s*(-?\d+(?:\.\d+)?)\s*,\s*(-?\d+(?:\.\d+)?)/g
  for (let m = pattern.exec(text); m && places.length < LOOKED_AT; m = pattern.exec(text))
    places.push([Number(m[1]), Number(m[2])])
  if (places.length === 0) return
  const crs = /"(?:name|code)"\s*:\s*"?([\w:.]*?\d+)"?\s*}/.exec(text.slice(0, 4_000))?.[1] ?? ''
  if (isMercator(crs)) for (const [k, [x, y]] of places.entries()) places[k] = fromMercator(x, y) as [number, number]
  const span = (k: 0 | 1) => {
    const of = places.map((p) => p[k])
    return [Math.min(...of), Math.max(...of)] as const
  }
  const [west, east] = span(0)
  const [south, north] = span(1)
  const onGlobe = west >= -180 && east <= 180 && south >= -90 && north <= 90
  const fractions = places.some(([x, y]) => !Number.isInteger(x) || !Number.isInteger(y))
  const large = Math.max(east - west, north - south)
  // What spans centimetres as metres, or has more decimals than anybody measures, is in degrees.
  const fine = /\.\d{4,}/.test(text.slice(0, 20_000))
  if (isMercator(crs) || (onGlobe && fractions && large <= MOST_DEGREES && (fine || large < 0.5))) {
    form.units = 'degrees'
    form.originLon = Math.round(((west + east) / 2) * 1000) / 1000
    form.originLat = Math.round(((south + north) / 2) * 1000) / 1000
    return
  }
  if (Math.max(Math.abs(west), Math.abs(east), Math.abs(south), Math.abs(north)) < FAR_M) return
  form.offsetX = Math.floor(west / 100) * 100
  form.offsetY = Math.floor(south / 100) * 100
}

const SHAPES = ['polygon', 'line', 'point'] as const

export const featuresImport: ImportKind<GeoRead> = {
  gives: 'features',
  form: FeaturesForm,
  rereads: (_format, { units, originLon, originLat, offsetX, offsetY }) => [
    units,
    originLon,
    originLat,
    offsetX,
    offsetY,
  ],
  read(importer, format, { bytes }, form, first) {
    const text = textOf(bytes)
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
    const { polygons, lines, points, useHeights, heightM, wallM, coverKind } = form
    const shift = [form.x, form.y] as const
    const coverRank = topRank(levels.doc.covers)
    const profileId = defaultProfile(levels.doc) ?? null
    const mapping = { polygons, lines, points, profileId, useHeights, heightM, wallM, coverKind, coverRank, shift }
    const things = makeFromGeo(features, mapping, (kind) => randomId(kind), zAt)
    if (things.length === 0) return 'Nothing would come of it: say what polygons, lines and points are to become.'
    levels.perform(addThings, { things, label: `Import ${file.name}` })
    sheet.choose([])
    return undefined
  },
}
