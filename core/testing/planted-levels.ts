/** The parts that levels with a planted fault are made of. */
import { levelSchema, PRESETS, WARDEN, type BriefStep, type Level, type LevelInput } from '@tidytrail/core/level'
import { follower, withRoutes, type Place } from './route-levels'
import { box, sceneLevel } from './scenes'

export const p = (x: number, y: number, z = 0): Place => [x, y, z]
export const line = (...xs: number[]): Place[] => xs.map((x) => p(x, 30))
export const two = [p(10, 30), p(50, 30)]
export const square = [p(10, 10), p(40, 10), p(40, 40), p(10, 40)]
export const told = follower('rt_a')
export const route = (at: (Place | string)[], more: object = {}, rest: Partial<LevelInput> = told, solids = {}) =>
  withRoutes({ a: { at, travel: 'one-way', ...more } }, rest, solids)
export const things = (more: Partial<LevelInput>): Level => levelSchema.parse({ ...sceneLevel(100, 60, {}), ...more })
export const marker = (at: Place) => ({ markers: { mk_a: { name: 'Crate', at } } })
export const post = (z: number, deckM = 2) =>
  levelSchema.parse({
    ...sceneLevel(100, 60, { sd_a: box(20, 20, 40, 40, deckM, { walkable: true, name: 'Block' }) }),
    posts: { po_a: { name: 'Post', at: p(30, 30, z) } },
  })
export const spawner = (at: Place, more: object = {}) => ({
  sp_a: { name: 'Gate', at, profileId: 'pf_warden', ...more },
})
export const wall = (gapM: number) => ({
  sd_s: box(30, -1, 31, 30 - gapM / 2, 3),
  sd_n: box(30, 30 + gapM / 2, 31, 61, 3),
})
export const block = (heightM: number, more = {}) =>
  box(40, 20, 60, 40, heightM, { walkable: true, name: 'Block', ...more })
export const wide = (deg: number) => ({
  ground: { baseM: 0, heights: null },
  solids: {
    sd_r: {
      shape: 'ramp' as const,
      name: 'Slope',
      at: [30, 30] as [number, number],
      sizeX: 20,
      sizeY: 20,
      baseM: 0,
      heightM: 20 * Math.tan((deg * Math.PI) / 180),
      walkable: true,
    },
  },
})
export const slope = (deg: number): Level => {
  const { solids } = wide(deg)
  return route([p(16, 30), p(39, 30, (solids.sd_r.heightM * 19) / 20)], {}, told, {
    ...solids,
    sd_t: box(40, 20, 60, 40, solids.sd_r.heightM, { walkable: true }),
  })
}
export const passage = (from: Place, to: Place, more: object = {}) => ({
  pg_a: { name: 'Way', kind: 'jump' as const, from, to, twoWay: true, ...more },
})
export const withPassage = (heightM: number, made: object) =>
  levelSchema.parse({ ...route([p(10, 30), p(20, 30)], {}, told, { sd_d: block(heightM) }), passages: made })
export const areas = (x: number) =>
  levelSchema.parse({
    ...route([p(10, 30), p(x, 30)]),
    profiles: { pf_warden: WARDEN, pf_lamp: PRESETS[1] },
    reachAreas: {
      ra_a: {
        name: 'Yard',
        ring: [
          [0, 0],
          [40, 0],
          [40, 60],
          [0, 60],
        ],
        profileIds: ['pf_warden'],
      },
      ra_b: {
        name: 'Loft',
        ring: [
          [40, 0],
          [100, 0],
          [100, 60],
          [40, 60],
        ],
        profileIds: ['pf_lamp'],
      },
    },
  })
export const cart = { pf_cart: PRESETS.find((q) => q.name === 'Tram-cart')! }
export const rolling = (m: number) => {
  const { briefs, spawners } = told
  const circle = cart.pf_cart.turnM
  // The third stop lies beside the start of its leg, so far out from the middle of the turning circle.
  return route(
    [p(10, 30), p(40, 30), p(40, 30 + circle + m)],
    {},
    { briefs, profiles: cart, spawners: { sp_a: { ...spawners.sp_a, at: p(4, 30), profileId: 'pf_cart' } } },
  )
}
/** Somebody who goes so fast, metres a second, at thirty steps each. */
export const paced = (mps: number) => {
  const level = route(two)
  const { pf_warden } = level.profiles
  return { ...level, profiles: { ...level.profiles, pf_warden: { ...pf_warden, gaits: { walk: mps } } } }
}
export const gaited = (gait: string | null) => route(two, { say: { 1: { gait } } })
export const turned = (deg: number) => {
  const rad = (deg * Math.PI) / 180
  return route([p(10, 30), p(40, 30), p(40 + 20 * Math.cos(rad), 30 + 20 * Math.sin(rad)), p(60, 50)])
}
export const named = (...names: string[]) =>
  route(
    names.map((_, i) => `wp_${i}`),
    {},
    {
      ...told,
      waypoints: Object.fromEntries(names.map((name, i) => [`wp_${i}`, { name, at: p(10 + 10 * i, 30) }])),
    },
  )
export const crossing = (x: number) =>
  route([p(10, 10), p(40, 40), p(40, 10), p(x, 40)], { travel: 'round', kind: 'circuit' })
/** A wall as long as makes the way round it a detour of so many metres. */
export const detour = (alongM: number) => {
  const half = Math.sqrt((alongM / 2) ** 2 - 2.5 ** 2)
  return route([p(27.5, 30), p(32.5, 30)], {}, told, { sd_w: box(29.9, 30 - half + 0.35, 30.1, 62, 3) })
}
export const nodes = [p(10, 10), p(30, 10), p(50, 10), p(70, 10)]
export const gull = { pf_gull: { ...WARDEN, name: 'Gull', medium: 'air' as const, minAltitudeM: 2, maxAltitudeM: 20 } }
export const shared = (bodies: [string, string]) => {
  const at = ['wp_s', ...two]
  return withRoutes(
    {
      a: { at, travel: 'one-way', profileIds: [bodies[0]] },
      b: { at: ['wp_s', p(20, 50)], travel: 'one-way', profileIds: [bodies[1]] },
    },
    { waypoints: { wp_s: { at: p(10, 10) } }, profiles: { ...gull, pf_lamp: PRESETS[1] } },
  )
}
export const restricted = (nobody: boolean, profileIds: string[] = []) => route(two, { nobody, profileIds })
export const taught = (routeId: string | null, more: object = {}) => {
  const made = route(
    two,
    {},
    {
      spawners: spawner(p(4, 30), { briefId: 'br_a' }),
      briefs: { br_a: { name: 'B', steps: { bs_a: { kind: 'follow-route', routeId } }, order: ['bs_a'] } },
    },
  )
  return { ...made, ...more }
}

/** Somebody told one step, on a lane for walking that has some tags, for some bodies only. */
export const pavement = (step: BriefStep, tags: string[], profileIds: string[] = []): Level => {
  const level = briefed(step)
  const lane = { ...level.routes.rt_a, kind: 'lane', use: 'walk', legs: 'drawn', travel: 'one-way', tags, profileIds }
  const other = { ...level.profiles.pf_warden, name: 'Other' }
  const profiles = { ...level.profiles, pf_other: other, pf_another: { ...other, name: 'Another' } }
  return levelSchema.parse({ ...level, profiles, routes: { rt_a: lane } })
}

/** Somebody who is told by a brief of these steps; the route it may name leads round. */
export const briefed = (...steps: BriefStep[]): Level => {
  const made = route(two, { travel: 'there-and-back' }, { spawners: spawner(p(4, 30), { briefId: 'br_a' }) })
  const ids = steps.map((_, k) => `bs_${k}`)
  const brief = { name: 'B', steps: Object.fromEntries(steps.map((s, k) => [ids[k], s])), order: ids }
  return levelSchema.parse({ ...made, briefs: { br_a: brief } })
}
