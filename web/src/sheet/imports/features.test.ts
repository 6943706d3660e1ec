import { readGeoJson } from '@tidytrail/core/formats'
import { describe, expect, it } from 'vitest'
import { guessFrame } from './features'
import { newForm } from './import-form'

const guessed = (...places: [number, number][]) => {
  const form = newForm()
  guessFrame(form, JSON.stringify({ type: 'MultiPoint', coordinates: places }))
  return form
}

describe('coordinates are taken for', () => {
  it('degrees when they lie on the globe, close together, with fractions, however few', () => {
    expect(guessed([8.54, 47.37], [8.55, 47.38])).toMatchObject({
      units: 'degrees',
      originLon: 8.545,
      originLat: 47.375,
    })
    expect(guessed([8.541234, 47.371234], [9.2, 47.9])).toMatchObject({ units: 'degrees' })
  })

  it('metres when they cover what no level in degrees would, or have no fractions', () => {
    expect(guessed([0.5, 0.5], [80.25, 40])).toMatchObject({ units: 'metres', offsetX: 0, offsetY: 0 })
    expect(guessed([1, 2], [1, 3])).toMatchObject({ units: 'metres' })
  })

  it('metres of a national grid when they lie far off, with an offset that brings them near', () => {
    const form = guessed([412_345.6, 5_654_321], [412_999, 5_655_000])
    expect(form).toMatchObject({ units: 'metres', offsetX: 412_300, offsetY: 5_654_300 })
  })

  it('what the form says already where there are none', () => {
    expect(guessed()).toEqual(newForm())
  })
})

describe('an old system of coordinates', () => {
  const named = (name: string, coordinates: number[][]) =>
    JSON.stringify({
      type: 'Feature',
      crs: { type: 'name', properties: { name } },
      properties: {},
      geometry: { type: 'LineString', coordinates },
    })
  /** A kilometre to the east at 47° N, in Web Mercator, whose metres are longer there. */
  const mercator = () => {
    const y = 6_378_137 * Math.log(Math.tan(Math.PI / 4 + (47 * Math.PI) / 360))
    const deg = 1000 / ((6_388_102.8 * Math.cos((47 * Math.PI) / 180) * Math.PI) / 180)
    const x = 6_378_137 * ((8.5 * Math.PI) / 180)
    return [
      [x, y],
      [x + (6_378_137 * deg * Math.PI) / 180, y],
    ]
  }
  it('of Web Mercator is turned into true metres', () => {
    const text = named('urn:ogc:def:crs:EPSG::3857', mercator())
    const form = newForm()
    guessFrame(form, text)
    expect(form.units).toBe('degrees')
    expect(form.originLat).toBeCloseTo(47, 2)
    const { features, repairs } = readGeoJson(text, {
      units: 'degrees',
      originLon: form.originLon,
      originLat: form.originLat,
    })
    const [[ax], [bx]] = features[0].points
    expect(bx - ax).toBeCloseTo(1000, 0)
    expect(repairs.join()).toContain('Web Mercator')
  })
  it('of a national grid is named, and taken as metres', () => {
    const text = named('urn:ogc:def:crs:EPSG::25832', [
      [461_234, 5_261_870],
      [461_334, 5_261_870],
    ])
    const form = newForm()
    guessFrame(form, text)
    expect(form).toMatchObject({ units: 'metres', offsetX: 461_200, offsetY: 5_261_800 })
    const { features, repairs } = readGeoJson(text, { units: 'metres', offset: [form.offsetX, form.offsetY] })
    expect(features[0].points).toEqual([
      [34, 70],
      [134, 70],
    ])
    expect(repairs.join()).toContain('EPSG::25832')
  })
})
