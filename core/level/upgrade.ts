import { LevelError } from './error'
import { tellable } from './faults'
import { LEVEL_FORMAT, LEVEL_VERSION } from './schema'

type Json = Record<string, unknown>

/**
 * One entry a version: how a document of that version becomes one of the next. Version 0, the trial format, kept the
 * waypoints of a route in the route itself, as a list of places.
 */
const STEPS: ((old: Json) => Json)[] = [
  (old) => {
    const waypoints: Json = {}
    const routes: Json = {}
    for (const [routeId, value] of Object.entries(record(old.routes ?? {}, 'routes'))) {
      const at = `routes.${tellable(routeId)}`
      const { points, loop, ...rest } = record(value, at)
      if (points !== undefined && !Array.isArray(points))
        throw new LevelError('not-valid', `${at}.points`, 'must be a list')
      const stops: Json = {}
      const order: string[] = []
      for (const [i, place] of ((points ?? []) as unknown[]).entries()) {
        const tail = `${routeId.replace(/^.._/, '')}${i + 1}`
        waypoints[`wp_${tail}`] = { at: place }
        stops[`st_${tail}`] = { waypointId: `wp_${tail}` }
        order.push(`st_${tail}`)
      }
      routes[routeId] = { ...rest, travel: loop ? 'round' : 'one-way', stops, order }
    }
    return { ...old, version: 1, waypoints, routes }
  },
]

/** @throws LevelError when a value of an old document is not the record it must be */
function record(value: unknown, at: string): Json {
  if (typeof value === 'object' && value !== null && !Array.isArray(value)) return value as Json
  throw new LevelError('not-valid', at, 'must be an object')
}

/**
 * The document brought to the current version, step by step.
 * @throws LevelError when it is no level, or of a newer version than this program knows
 */
export function upgrade(document: unknown): Json {
  if (typeof document !== 'object' || document === null || Array.isArray(document)) {
    throw new LevelError('wrong-format', '', 'this is not a level: expected an object at the top')
  }
  let level = document as Json
  if (level.format !== LEVEL_FORMAT) {
    const got = level.format === undefined ? 'nothing' : JSON.stringify(level.format)?.slice(0, 40)
    throw new LevelError('wrong-format', 'format', `expected "${LEVEL_FORMAT}", found ${got}`)
  }
  const version = level.version
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) {
    throw new LevelError('not-valid', 'version', 'is not a whole number')
  }
  if (version > LEVEL_VERSION) {
    throw new LevelError(
      'newer-version',
      'version',
      `is ${version}, but this program reads up to ${LEVEL_VERSION}; update Tidy Trail to open it`,
    )
  }
  for (let v = version; v < LEVEL_VERSION; v++) level = STEPS[v](level)
  return level
}
