import { expect, it } from 'vitest'
import { packMesh, provideAsset, terrainOf } from '@tidytrail/core/ground'
import { profileSchema, PRESETS, type Level } from '@tidytrail/core/level'
import { box, fakeHash, meshOfShapes, sceneLevel } from '@tidytrail/core/testing'
import { CheckedSurvey } from '.'

/** A patrol from the ground onto a deck that is a mesh not yet come, with a ramp of solids leading up to it. */
function withMesh(hash: string): Level {
  return sceneLevel(
    60,
    20,
    {
      sd_ramp: {
        shape: 'ramp',
        name: 'Ramp',
        at: [14, 10],
        sizeX: 12,
        sizeY: 4,
        baseM: 0,
        heightM: 3,
        walkable: true,
      },
    },
    {
      meshes: { ms_deck: { name: 'Deck', assetId: hash, at: [0, 0, 0] } },
      waypoints: { wp_a: { at: [3, 10, 0] }, wp_b: { at: [28, 10, 3] } },
      routes: {
        rt_a: {
          name: 'Up',
          stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
          order: ['st_a', 'st_b'],
        },
      },
      briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' } }, order: ['bs_a'] } },
      spawners: { sp_a: { name: 'Gate', at: [3, 10, 0], profileId: 'pf_warden', briefId: 'br_a' } },
    },
  )
}

it('a survey works without a mesh that has not come, and takes it in when it has', () => {
  const hash = fakeHash('late deck')
  const level = withMesh(hash)
  const survey = new CheckedSurvey()
  expect(survey.update(level).map((f) => f.check)).toContain('waypoint.floating')
  const deck = terrainOf(sceneLevel(60, 20, { sd_d: box(20, 5, 36, 15, 3) })).solids
  provideAsset(hash, packMesh(meshOfShapes(deck)))
  // The level is the very same; only what it refers to has come.
  expect(survey.update(level, [])).toEqual([])
})

it('the reach of a profile somebody looks at is worked out though nobody has it, and let go again', () => {
  const scene = sceneLevel(30, 20, {})
  const level = {
    ...scene,
    settings: { ...scene.settings, usualProfileId: 'pf_warden' },
    profiles: { ...sceneLevel(1, 1, {}).profiles, pf_wick: profileSchema.parse(PRESETS[1]) },
  }
  const survey = new CheckedSurvey()
  survey.update(level)
  expect(survey.plannerFor('pf_wick')).toBeUndefined()
  survey.also = ['pf_wick', 'pf_gone']
  survey.update(level, [])
  expect(survey.plannerFor('pf_wick')?.map.islands.list).toHaveLength(1)
  survey.also = []
  survey.update(level, [])
  expect(survey.plannerFor('pf_wick')).toBeUndefined()
})
