import { describe, expect, it } from 'vitest'
import {
  fieldsOf,
  keptNumber,
  profileSchema,
  routeSchema,
  shownNumber,
  spawnerSchema,
  solidSchema,
  valueIn,
  WARDEN,
  withValue,
  type FieldSpec,
  type NumberSpec,
} from '.'

const labels = (fields: readonly FieldSpec[], thing: object) =>
  fields.filter((f) => f.when?.(thing) ?? true).map((f) => f.label)

describe('the fields of a thing', () => {
  const stairs = solidSchema.parse({
    shape: 'stairs',
    name: 'Steps',
    at: [1, 2],
    sizeX: 4,
    sizeY: 2,
    baseM: 0,
    heightM: 2,
  })

  it('are those of its shape, with the limits of the schema in the unit that is shown', () => {
    const fields = fieldsOf('solids', stairs)
    expect(labels(fields, stairs)).toEqual([
      'length, uphill',
      'width',
      'turned',
      'steps',
      'underside at',
      'height',
      'agents may stand on top',
      'blocks sight',
      'note',
    ])
    expect(fields.find((f) => f.label === 'steps')).toMatchObject({ as: 'number', min: 1, max: 500, whole: true })
    const turned = fields.find((f) => f.label === 'turned')
    expect(turned).toMatchObject({ as: 'number', unit: '°', compass: 'turn' })
    expect((fields.find((f) => f.label === 'height') as { min: number }).min).toBeGreaterThan(0)
  })

  it('show directions as on a map: 0° is north, and a turn is clockwise', () => {
    const spec = (collection: 'solids' | 'spawners', label: string, thing: object) =>
      fieldsOf(collection, thing).find((f) => f.label === label) as NumberSpec
    const faces = spec('spawners', 'faces', spawnerSchema.parse({ name: 'S', at: [0, 0, 0], profileId: null }))
    expect(shownNumber(faces, Math.PI / 2)).toBeCloseTo(0, 9)
    expect(shownNumber(faces, 0)).toBeCloseTo(90, 9)
    expect(keptNumber(faces, 180)).toBeCloseTo(-Math.PI / 2, 5)
    const turned = spec('solids', 'turned', stairs)
    expect(shownNumber(turned, 0)).toBeCloseTo(0, 9)
    expect(shownNumber(turned, -Math.PI / 6)).toBeCloseTo(30, 9)
    expect(keptNumber(turned, 30)).toBeCloseTo(-Math.PI / 6, 5)
    expect(keptNumber(turned, shownNumber(turned, 1.25))).toBeCloseTo(1.25, 5)
  })

  it('leave out what is of no use to the body', () => {
    const walker = labels(fieldsOf('profiles', WARDEN), WARDEN)
    expect(walker).toContain('jumps up')
    expect(walker).not.toContain('flies above')
    const gull = profileSchema.parse({ ...WARDEN, medium: 'air' })
    expect(labels(fieldsOf('profiles', gull), gull)).toEqual([
      'gets about',
      'radius',
      'height',
      'flies above',
      'flies below',
      'acceleration',
      'braking',
      'holds in bends',
      'turns',
      'turning circle',
      'no slower than',
      'climbs',
      'sees',
      'within',
      'eyes at',
      'hears a walker within',
      'note',
    ])
  })

  it('know what may be empty and what refers to other things', () => {
    const route = routeSchema.parse({ name: 'Beat', stops: {}, order: [] })
    expect(fieldsOf('routes', route).find((f) => f.label === 'speed limit')).toMatchObject({
      none: 'none',
      unit: 'km/h',
    })
    const spawner = spawnerSchema.parse({ name: 'Gate', at: [0, 0, 0], profileId: null })
    const things = (thing: object) =>
      fieldsOf('spawners', thing)
        .filter((f) => f.as === 'thing' && (f.when?.(thing) ?? true))
        .map((f) => f.label)
    expect(things(spawner)).toEqual(['profile', 'squad', 'faction', 'brief'])
    // What is of use only for some of them is asked of those.
    expect(things({ ...spawner, where: 'area', begins: 'left' })).toEqual([
      'profile',
      'squad',
      'faction',
      'brief',
      'in zone',
      'the spawner',
    ])
  })

  it('are set within what they are part of', () => {
    expect(withValue({ at: [1, 2, 3], name: 'A' }, ['at', '1'], 9)).toEqual({ at: [1, 9, 3] })
    const stop = { pause: { minS: 1, maxS: 2 } }
    expect(withValue(stop, ['pause', 'maxS'], 5)).toEqual({ pause: { minS: 1, maxS: 5 } })
    expect(valueIn(stop, ['pause', 'minS'])).toBe(1)
    expect(valueIn({}, ['pause', 'minS'])).toBeUndefined()
  })
})
