import { describe, expect, it } from 'vitest'
import { previewSpawner } from '..'
import { at, box, castLevel, framesOf, rehearsed } from '@tidytrail/core/testing'
import { Survey } from '@tidytrail/core/survey'

const KINDS = {
  spot: {},
  area: { where: 'area', zoneId: 'zn_w' },
  'spots in turn': { where: 'spots', spots: [[30, 40, 0], [60, 50, 0]] }, // prettier-ignore
  'spots at random': { where: 'spots', pick: 'random', weights: [0, 1, 1], spots: [[30, 40, 0], [60, 50, 0]] }, // prettier-ignore
  route: { where: 'route', routeId: 'rt_a' },
  ranks: { where: 'ranks', files: 3 },
}

describe('before anything runs it is foretold', () => {
  it.each(Object.entries(KINDS))('where the first of those who appear at a %s will be', (_name, more) => {
    for (const seed of [1, 2, 3]) {
      const level = castLevel({
        spawners: { sp_a: at(40, 30, { count: 6, everyS: 3, spreadS: 2, firstAfterS: 1, ...more }) },
      })
      const survey = new Survey()
      survey.update(level)
      const { first, arrivals, places } = previewSpawner(level, 'sp_a', survey.plannerFor('pf_warden')!, seed)
      const run = rehearsed(level, 30, seed)
      const seen = new Map<number, { s: number; x: number; y: number }>()
      framesOf(run).forEach((rows, k) => {
        for (const r of rows) if (!seen.has(r.key)) seen.set(r.key, { s: k / 10, x: r.x, y: r.y })
      })
      const [one] = seen.values()
      expect(Math.hypot(one.x - first!.at[0], one.y - first!.at[1])).toBeLessThan(0.05)
      expect(places.every((p) => p.fault === undefined)).toBe(true)
      // And when they come, where there is room for them.
      if (more !== KINDS.spot && more !== KINDS['spots at random'])
        [...seen.values()].forEach(({ s }, k) => expect(Math.abs(s - arrivals[k]), `${k}`).toBeLessThan(0.25))
    }
  })

  it('which of its places nobody can stand at, and why', () => {
    const level = castLevel(
      { spawners: { sp_a: at(40, 30, { where: 'spots', spots: [[10, 10, 0]] }) } },
      { sd_a: box(5, 5, 15, 15, 4, { walkable: false }) },
    )
    const survey = new Survey()
    survey.update(level)
    const { places } = previewSpawner(level, 'sp_a', survey.plannerFor('pf_warden')!, 1)
    expect(places.map((p) => p.fault !== undefined)).toEqual([false, true])
    expect(places[1].fault).toMatch(/inside/)
  })
})
