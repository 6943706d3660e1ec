import type { Point3 } from '@tidytrail/core/geometry'
import { whyNotHere } from '@tidytrail/core/reach'
import type { Level, Spawner } from '@tidytrail/core/level'
import type { LegPlanner } from '@tidytrail/core/network'
import { USE } from '../chance'
import { areaFor } from '../steps/step'
import { DRAWS, placeIn, placesOf, spawnLuck, spotByWeight, type SpawnPlace } from './places'

/** Places of a zone shown of a spawner at most, arrivals foretold, and draws for them. */
const SHOWN = 40
const ARRIVALS = 200
const TRIES = 400
/** What is shown of a zone has nothing to do with where somebody will appear. */
const SHOW = 1009

/** A place where one may appear, and why nobody can stand there if so. */
export interface PossiblePlace extends SpawnPlace {
  readonly fault: string | undefined
}

/** What a spawner will do, before anything runs. */
export interface SpawnPreview {
  /** Every place it may send to; of a zone some spread over it. */
  readonly places: readonly PossiblePlace[]
  /** Where the first one appears with the level's seed, if there is room there. */
  readonly first: SpawnPlace | undefined
  /** When they appear, seconds after its time begins, as far as there is room. */
  readonly arrivals: readonly number[]
  /** Does its time begin at the start, so that these are times of the rehearsal? */
  readonly fromStart: boolean
}

/** What a spawner will do with a seed. @param planner the ways of its profile */
export function previewSpawner(level: Level, id: string, planner: LegPlanner, seed: number): SpawnPreview {
  const spawner = level.spawners[id]
  const area = spawner.where === 'area' ? areaFor(level, spawner.zoneId) : undefined
  const told = { arrivals: arrivalsOf(level, id, spawner, seed), fromStart: spawner.begins === 'start' }
  if (spawner.where === 'area') {
    if (!area) return { places: [], first: undefined, ...told }
    let count = 0
    const shown = () => spawnLuck(seed, SHOW, id, count++)
    const places: PossiblePlace[] = []
    const radiusM = level.profiles[spawner.profileId ?? '']?.radiusM ?? 0.3
    for (let k = 0; k < TRIES && places.length < SHOWN; k++) {
      const place = placeIn(area, planner, shown)
      if (place && places.every((p) => far(p.at, place.at) > 2 * radiusM)) places.push({ ...place, fault: undefined })
    }
    let drawn = 0
    const luck = () => spawnLuck(seed, USE.place, id, drawn++)
    let first: SpawnPlace | undefined
    for (let k = 0; k < DRAWS * 4 && !first; k++) first = placeIn(area, planner, luck)
    return { places, first, ...told }
  }
  const all = placesOf(level, spawner, planner)
  const places = all.map((p) => ({
    ...p,
    fault: planner.map.reachedAt(...p.at) ? undefined : (whyNotHere(planner.map, p.at) ?? 'no floor to stand on'),
  }))
  const random = spawner.where === 'spots' && spawner.pick === 'random'
  const at = random ? spotByWeight(spawner.weights, all.length, spawnLuck(seed, USE.place, id, 0)) : 0
  return { places, first: all[at], ...told }
}

const far = (a: Point3, b: Point3) => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2)

/** When a spawner sends, had it always room: as many as it sends in all, 200 at most. */
function arrivalsOf(level: Level, id: string, spawner: Spawner, seed: number): number[] {
  const { firstAfterS, everyS, spreadS, atOnce, alive, untilS } = spawner
  const count = Math.max(0, alive === 'fill' ? spawner.count - level.settings.players : spawner.count)
  const times: number[] = []
  let at = firstAfterS
  for (let draws = 0; times.length < Math.min(count, ARRIVALS) && at <= (untilS ?? Infinity); draws++) {
    for (let k = 0; k < atOnce && times.length < Math.min(count, ARRIVALS); k++) times.push(at)
    const spread = spreadS === 0 ? 0 : (spawnLuck(seed, USE.when, id, draws) * 2 - 1) * spreadS
    at += Math.max(0, everyS + spread)
  }
  return times
}
