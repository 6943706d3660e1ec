import { describe, expect, it } from 'vitest'
import { levelSchema, type Level } from '@tidytrail/core/level'
import { box, sceneLevel } from '@tidytrail/core/testing'
import { Survey } from '.'

/** Two steep banks of ground with a gap of 0.84 m between them, which columns of half a metre tell shut. */
function banks(columnM: number | null): Level {
  const row = Array.from({ length: 201 }, (_, i) => 2 * Math.max(0, Math.abs(i * 0.1 - 10.05) - 0.42))
  const flat = row.map(() => 0)
  const rows = Array.from({ length: 201 }, (_, j) => (j < 80 || j > 120 ? flat : row))
  const scene = sceneLevel(
    20,
    20,
    {},
    {
      waypoints: { wp_a: { at: [10.05, 4, 0] }, wp_b: { at: [10.05, 16, 0] } },
      routes: {
        rt_a: {
          name: 'Through',
          stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
          order: ['st_a', 'st_b'],
        },
      },
      briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
      spawners: { sp_a: { name: 'Gate', at: [10.05, 4, 0], profileId: 'pf_warden', briefId: 'br_a' } },
      reachAreas: {
        ra_a: {
          name: 'Gap',
          ring: [
            [8, 6],
            [12, 6],
            [12, 14],
            [8, 14],
          ],
          columnM,
        },
      },
      ground: { baseM: 0, heights: { originX: 0, originY: 0, spacingM: 0.1, rows, assetId: null } },
    },
  )
  return levelSchema.parse({ ...scene, settings: { ...scene.settings, cellM: 0.5 } })
}

const wayOf = (survey: Survey) => survey.view!.legs('pf_warden', 'rt_a')![0]
const patched = (level: Level, columnM: number | null): Level => ({
  ...level,
  reachAreas: { ra_a: { ...level.reachAreas.ra_a, columnM } },
})
const path = '/reachAreas/ra_a/columnM'

describe('a survey that is kept up to date', () => {
  it('knows a way through a gap as soon as finer columns are asked for there, and forgets it with them', () => {
    const survey = new Survey()
    const coarse = banks(null)
    survey.update(coarse)
    expect(wayOf(survey).found).toBe(false)
    survey.takeChanges()
    const fine = patched(coarse, 0.05)
    survey.update(fine, [{ op: 'replace', path, value: 0.05 }])
    const anew = new Survey()
    anew.update(fine)
    expect(wayOf(survey)).toEqual(wayOf(anew))
    expect(wayOf(survey).found).toBe(true)
    const { where, touched } = survey.takeChanges()
    expect(where).not.toBe('everywhere')
    expect(touched?.('reachAreas')).toEqual(['ra_a'])
    survey.update(patched(fine, null), [{ op: 'replace', path, value: null }])
    expect(wayOf(survey).found).toBe(false)
  })

  it('keeps the very same ways where an edit has nothing to do with them', () => {
    const survey = new Survey()
    const level = banks(0.1)
    survey.update(level)
    const before = survey.view!.legs('pf_warden', 'rt_a')
    const shed = sceneLevel(20, 20, { sd_a: box(17, 1, 19, 3) }).solids
    survey.update({ ...level, solids: shed }, [{ op: 'add', path: '/solids/sd_a', value: shed.sd_a }])
    expect(survey.view!.legs('pf_warden', 'rt_a')).toBe(before)
  })

  it('works on what is newest when an update is left half done', () => {
    const survey = new Survey()
    const level = banks(null)
    survey.update(level)
    const fine = patched(level, 0.05)
    const half = survey.updating(fine, [{ op: 'replace', path, value: 0.05 }])
    half.next()
    const walled = { ...fine, solids: sceneLevel(20, 20, { sd_a: box(0, 9, 20, 11) }).solids }
    survey.update(walled, [{ op: 'add', path: '/solids/sd_a', value: walled.solids.sd_a }])
    expect(wayOf(survey).found).toBe(false)
    survey.update(fine, [{ op: 'remove', path: '/solids/sd_a' }])
    expect(wayOf(survey).found).toBe(true)
  })
})
