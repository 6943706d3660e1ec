import { levelSchema, LEVEL_FORMAT, LEVEL_VERSION, WARDEN, type Level, type LevelInput } from '@tidytrail/core/level'

export type SolidInput = NonNullable<LevelInput['solids']>[string]
type RouteInput = NonNullable<LevelInput['routes']>[string]

/** A box from its corners on the map, standing from `base` up to `top`, metres. */
export const block = (
  name: string,
  [x0, y0, x1, y1]: [number, number, number, number],
  [base, top]: [number, number],
  more: Partial<Extract<SolidInput, { shape: 'box' }>> = {},
): SolidInput => ({
  shape: 'box',
  name,
  at: [(x0 + x1) / 2, (y0 + y1) / 2],
  sizeX: x1 - x0,
  sizeY: y1 - y0,
  baseM: base,
  heightM: Math.round((top - base) * 1000) / 1000,
  ...more,
})

/** A stop as the demo levels write it: name, place, and what is done there. */
export interface StopSketch {
  name: string
  at: [number, number, number]
  pause?: number | [number, number]
  /** Compass point faced during the pause. */
  face?: 'N' | 'E' | 'S' | 'W'
}

const FACE = { E: 0, N: Math.PI / 2, W: Math.PI, S: -Math.PI / 2 }

/** Collects routes, waypoints and spawners under readable ids. */
export class Sketch {
  readonly waypoints: NonNullable<LevelInput['waypoints']> = {}
  readonly routes: NonNullable<LevelInput['routes']> = {}
  readonly briefs: NonNullable<LevelInput['briefs']> = {}
  readonly spawners: NonNullable<LevelInput['spawners']> = {}

  route(
    key: string,
    name: string,
    travel: RouteInput['travel'],
    stops: StopSketch[],
    more: Partial<RouteInput> = {},
  ): this {
    const order: string[] = []
    const made: RouteInput['stops'] = {}
    stops.forEach((stop, i) => {
      const tail = `${key}${i + 1}`
      const [minS, maxS] = typeof stop.pause === 'number' ? [stop.pause, stop.pause] : (stop.pause ?? [0, 0])
      this.waypoints[`wp_${tail}`] = { name: stop.name, at: stop.at }
      made[`st_${tail}`] = {
        waypointId: `wp_${tail}`,
        pause: { minS, maxS },
        facingRad: stop.face ? FACE[stop.face] : null,
      }
      order.push(`st_${tail}`)
    })
    this.routes[`rt_${key}`] = { name, kind: 'patrol', travel, stops: made, order, ...more }
    return this
  }

  spawner(
    key: string,
    name: string,
    at: [number, number, number],
    face: keyof typeof FACE,
    routeKey: string,
    more: Partial<NonNullable<LevelInput['spawners']>[string]> = {},
  ): this {
    this.briefs[`br_${key}`] = {
      name: `Brief of ${name}`,
      steps: { [`bs_${key}`]: { kind: 'follow-route', routeId: `rt_${routeKey}` } },
      order: [`bs_${key}`],
    }
    this.spawners[`sp_${key}`] = {
      name,
      at,
      facingRad: FACE[face],
      profileId: 'pf_warden',
      factionId: 'fc_watch',
      briefId: `br_${key}`,
      ...more,
    }
    return this
  }
}

/** A finished level of the Isles. */
export function isleLevel(name: string, rest: Omit<LevelInput, 'format' | 'version' | 'name'>): Level {
  return levelSchema.parse({
    format: LEVEL_FORMAT,
    version: LEVEL_VERSION,
    name,
    profiles: { pf_warden: WARDEN },
    factions: {
      fc_watch: { name: 'The Watch', hostileTo: ['fc_visitors'] },
      fc_visitors: { name: 'Night visitors', hostileTo: ['fc_watch'], pattern: 'striped' },
    },
    ...rest,
  })
}

type Ring = [number, number][]

/** The corners of an oblong. */
export const oblong = (x0: number, y0: number, x1: number, y1: number): Ring => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
]
