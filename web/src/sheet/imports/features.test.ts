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
