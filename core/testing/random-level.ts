import { levelSchema, PRESETS, type Level, type LevelInput } from '@tidytrail/core/level'
import { chance, sceneLevel } from './scenes'
import type { Place } from './route-levels'

const SIZE_X = 48
const SIZE_Y = 32

/** A level in which nearly everything is somewhat wrong: things are strewn without a look at one another. */
export function randomLevel(seed: number): Level {
  const next = chance(seed)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]
  const some = (most: number) => Math.floor(next() * (most + 1))
  const solids: Record<string, NonNullable<LevelInput['solids']>[string]> = {}
  for (let k = 0, n = 2 + some(8); k < n; k++) {
    const standing = {
      name: `Block ${k}`,
      at: [next() * SIZE_X, next() * SIZE_Y] as [number, number],
      sizeX: 0.3 + next() * 12,
      sizeY: 0.3 + next() * 6,
      turnRad: next() < 0.5 ? 0 : next() * 6,
      baseM: next() < 0.85 ? 0 : 2.5,
      heightM: pick([0.3, 0.6, 1, 1.6, 3]),
      walkable: next() < 0.6,
    }
    const shape = pick(['box', 'box', 'box', 'ramp', 'stairs'] as const)
    solids[`sd_${k}`] = shape === 'stairs' ? { ...standing, shape, steps: 5 } : { ...standing, shape }
  }
  const place = (): Place => {
    const edge = next() < 0.05 ? 4 : 0
    const at = (size: number) => Math.round((next() * (size + edge) - edge / 2) * 20) / 20
    return [at(SIZE_X), at(SIZE_Y), next() < 0.7 ? 0 : pick([-0.6, 0.3, 1, 1.6, 3, 5])]
  }
  const profiles = Object.fromEntries(PRESETS.map((p) => [`pf_${p.name.toLowerCase().replace(/\W/g, '')}`, p]))
  const waypoints: NonNullable<LevelInput['waypoints']> = {}
  const routes: NonNullable<LevelInput['routes']> = {}
  const links: NonNullable<LevelInput['links']> = {}
  const markers: NonNullable<LevelInput['markers']> = {}
  const passages: NonNullable<LevelInput['passages']> = {}
  const briefs: NonNullable<LevelInput['briefs']> = {}
  const spawners: NonNullable<LevelInput['spawners']> = {}
  for (let k = 0, n = some(2); k < n; k++)
    markers[`mk_${k}`] = { name: `Well ${k}`, at: place(), kind: 'place' } as never
  for (let r = 0, n = 1 + some(2); r < n; r++) {
    const kind = pick(['patrol', 'patrol', 'lane', 'circuit', 'network'] as const)
    const stops: (typeof routes)[string]['stops'] = {}
    const ids: string[] = []
    for (let k = 0, count = some(kind === 'network' ? 8 : 6); k < count; k++) {
      const shared = next() < 0.1 && Object.keys(waypoints).length > 0 ? pick(Object.keys(waypoints)) : undefined
      const id = shared ?? `wp_${r}x${k}`
      if (kind === 'network' && ids.includes(id)) continue
      const twin = next() < 0.06 && ids.length > 0 ? ids[ids.length - 1] : undefined
      waypoints[id] ??= {
        at: twin ? [...waypoints[twin].at] : place(),
        name: next() < 0.2 ? `Q${some(9)}` : '',
        ...(markers.mk_0 && next() < 0.1 ? { markerId: 'mk_0' } : {}),
      }
      stops[`st_${r}x${k}`] = {
        waypointId: id,
        ...(next() < 0.2 ? { pause: { minS: 1, maxS: 2 } } : {}),
        ...(next() < 0.05 ? { gait: 'hop' } : {}),
      }
      ids.push(id)
    }
    const linkIds: string[] = []
    if (kind === 'network') {
      for (let k = 1; k < ids.length; k++) {
        const from = ids[k]
        const to = ids[some(k - 1)]
        if (next() < 0.2 || from === to) continue
        linkIds.push(`ln_${r}x${k}`)
        links[`ln_${r}x${k}`] = { fromId: from, toId: to, twoWay: next() < 0.7 }
      }
    }
    routes[`rt_${r}`] = {
      name: next() < 0.1 ? 'Beat' : `Beat ${r}`,
      kind,
      travel: kind === 'network' ? 'one-way' : pick(['one-way', 'round', 'there-and-back']),
      legs: next() < 0.5 ? 'found' : 'drawn',
      curve: next() < 0.3 ? 'smooth' : 'straight',
      stops,
      order: Object.keys(stops),
      linkIds,
    }
  }
  for (let k = 0, n = some(2); k < n; k++) {
    const [from, to] = [place(), place()]
    passages[`pg_${k}`] = {
      name: `Way ${k}`,
      kind: pick(['jump', 'drop', 'ladder', 'door', 'portal']),
      from,
      to: next() < 0.5 ? to : [from[0] + 1, from[1], from[2] + pick([-1, 0, 1])],
      twoWay: next() < 0.5,
      state: next() < 0.2 ? 'locked' : 'open',
    }
  }
  Object.keys(routes).forEach((routeId, k) => {
    const step = { kind: 'follow-route' as const, routeId, ...(next() < 0.1 ? { gait: 'hop' } : {}) }
    briefs[`br_${k}`] = { name: `Brief ${k}`, steps: { [`bs_${k}`]: step }, order: [`bs_${k}`] }
    if (next() < 0.3) return
    spawners[`sp_${k}`] = {
      name: `Gate ${k}`,
      at: place(),
      profileId: pick([...Object.keys(profiles), 'pf_warden', 'pf_warden']),
      briefId: next() < 0.9 ? `br_${k}` : null,
    }
  })
  const covers =
    next() < 0.2 ? { cv_a: { name: 'Moss', kind: 'road', ring: ringAt(next() * 70 - 10, next() * 50 - 10) } } : {}
  const scene = sceneLevel(SIZE_X, SIZE_Y, solids, { settings: { cellM: 0.5 } as never })
  return levelSchema.parse({
    ...scene,
    profiles: { ...scene.profiles, ...profiles },
    waypoints,
    routes,
    links,
    markers,
    passages,
    briefs,
    spawners,
    covers,
  })
}

const ringAt = (x: number, y: number): [number, number][] => [
  [x, y],
  [x + 6, y],
  [x + 6, y + 4],
  [x, y + 4],
]
