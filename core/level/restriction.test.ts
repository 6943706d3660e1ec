import { expect, it } from 'vitest'
import {
  admits,
  blankLevel,
  isOpenToAll,
  readLevel,
  readLevelText,
  removeThings,
  WARDEN,
  writeLevelText,
  type Level,
} from '.'

const ring: [number, number][] = [
  [0, 0],
  [9, 0],
  [9, 9],
]
/** One thing of each kind that can be kept for some profiles, kept for a porter alone. */
const kept = (): Level =>
  readLevel({
    ...blankLevel('Kept'),
    profiles: { pf_warden: WARDEN, pf_porter: { ...WARDEN, name: 'Porter' } },
    passages: { pg_a: { name: 'Gate', kind: 'door', from: [1, 1, 0], to: [3, 1, 0], profileIds: ['pf_porter'] } },
    covers: { cv_a: { name: 'Planks', kind: 'road', ring, profileIds: ['pf_porter'] } },
    routes: { rt_a: { name: 'Beat', stops: {}, order: [], profileIds: ['pf_porter'] } },
    reachAreas: { ra_a: { name: 'Yard', ring, profileIds: ['pf_porter'] } },
  })
const things = (l: Level) => [l.passages.pg_a, l.covers.cv_a, l.routes.rt_a, l.reachAreas.ra_a]

it('what is kept for one profile is for nobody once that is deleted, never for everyone', () => {
  const { level } = removeThings.apply(kept(), { ids: ['pf_porter'] })
  for (const thing of things(level)) {
    expect(thing).toMatchObject({ profileIds: [], nobody: true })
    expect(isOpenToAll(thing)).toBe(false)
    expect(admits(thing, 'pf_warden')).toBe(false)
  }
  expect(things(readLevelText(writeLevelText(level)))).toEqual(things(level))
})

it('what is kept for two stays kept for the other', () => {
  const both = kept()
  const two = { ...both, routes: { rt_a: { ...both.routes.rt_a, profileIds: ['pf_warden', 'pf_porter'] } } }
  const { level } = removeThings.apply(two, { ids: ['pf_porter'] })
  expect(level.routes.rt_a).toMatchObject({ profileIds: ['pf_warden'], nobody: false })
  expect(admits(level.routes.rt_a, 'pf_warden')).toBe(true)
})

it('what names nobody from the beginning is for everyone', () => {
  expect(admits({ profileIds: [], nobody: false }, 'pf_warden')).toBe(true)
})
