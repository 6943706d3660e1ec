import { exact, type Point3 } from '@tidytrail/core/geometry'
import { canSee } from '@tidytrail/core/ground'
import { HEAD } from '@tidytrail/core/level'
import { USE } from './chance'
import { LIMIT } from './events'
import type { Engine } from './engine'
import { MAX_AGENTS, type SpawnRow } from './scenario'
import { DRAWS, placeIn, spawnLuck, spotByWeight, type SpawnPlace } from './spawning/places'
import { isTaken } from './spawning/room'
import { hasBegun } from './spawning/begins'
import { streamBegins, streamOn } from './spawning/stream'
import { setSpot } from './travel'
import { STATE } from './world'

/** One that found no room looks for it again so soon, seconds. */
const RETRY_S = 0.2

/** Lets those appear whose time has come; where there is no room, or where a player would see it, one waits. */
export function spawn(engine: Engine): void {
  const { world, t, scenario } = engine
  const { by } = world
  for (const k of scenario.order) {
    const row = scenario.spawners[k]!
    if (by.begunAt[k] < 0) {
      if (!hasBegun(engine, k, row)) continue
      by.begunAt[k] = row.begins === 'start' ? 0 : t
      by.nextAt[k] = Math.max(t, by.begunAt[k] + row.firstAfterS)
      if (row.stream) streamBegins(engine, k, row, row.stream)
    }
    if (row.stream) {
      streamOn(engine, k, row, row.stream)
      continue
    }
    if (t > by.begunAt[k] + row.untilS) continue
    while (wants(engine, k, row) && t + 1e-9 >= by.nextAt[k] && world.count < MAX_AGENTS) {
      let came = 0
      while (came < row.atOnce && wants(engine, k, row) && appear(engine, k)) came++
      if (came === 0) {
        // Looking over all of a zone at every step would cost much and change little.
        if (row.area || row.places.length > 1) by.nextAt[k] = t + RETRY_S
        break
      }
      // The next one keeps its distance in time from when this one was due, unless it had to wait.
      by.nextAt[k] = Math.max(by.nextAt[k], t - scenario.stepS) + Math.max(0, row.everyS + spread(engine, k, row))
      if (row.everyS === 0) break
    }
  }
}

/** Has it anybody left to send? */
function wants({ world: { by } }: Engine, k: number, row: SpawnRow): boolean {
  if (row.keeps) return by.there[k] < row.count
  return by.sent[k] < row.count && by.there[k] < row.mostAlive
}

function spread({ world: { by }, seed }: Engine, k: number, { id, spreadS }: SpawnRow): number {
  return spreadS === 0 ? 0 : (spawnLuck(seed, USE.when, id, by.drawsWhen[k]++) * 2 - 1) * spreadS
}

/** @returns false where there is no room yet */
function appear(engine: Engine, k: number): boolean {
  const { world, scenario, seed } = engine
  const row = scenario.spawners[k]!
  const { by } = world
  let variant = 0
  if (row.variants.length > 1)
    variant = spotByWeight(row.weights, row.variants.length, spawnLuck(seed, USE.mix, row.id, by.sent[k]))
  const told = row.variants[variant]
  if (!scenario.profiles[told.profile]) return false
  const { planner } = scenario.profiles[told.profile]!
  if (row.area) {
    const luck = () => spawnLuck(seed, USE.place, row.id, by.drawsPlace[k]++)
    for (let q = 0; q < DRAWS; q++) {
      const place = placeIn(row.area, planner, luck)
      if (!place || engine.keepsOut(told.faction, ...place.at)) continue
      if (stands(engine, k, variant, place)) return true
    }
    return false
  }
  const many = row.places.length
  if (many === 0) return false
  if (row.random) {
    const at = spotByWeight(row.spotWeights, many, spawnLuck(seed, USE.place, row.id, by.drawsPlace[k]))
    if (!stands(engine, k, variant, row.places[at])) {
      // Where that one is taken it is drawn again at the next look.
      by.drawsPlace[k]++
      return false
    }
    by.drawsPlace[k]++
    return true
  }
  // Each in turn; one that is taken is passed over.
  for (let q = 0; q < many; q++) {
    const at = (by.turn[k] + q) % many
    if (!stands(engine, k, variant, row.places[at])) continue
    by.turn[k] = at + 1
    return true
  }
  return false
}

/** Lets one appear at a place, if there is room for it there and no player near or looking. */
function stands(engine: Engine, k: number, variant: number, { at, facingRad }: SpawnPlace): boolean {
  const { world, scenario } = engine
  const row = scenario.spawners[k]!
  const { profile, planner } = scenario.profiles[row.variants[variant].profile]!
  const [x, y, z] = at
  const spot = planner.map.reachedAt(x, y, z)
  let place = at
  if (spot) {
    place = [x, y, planner.map.zOf(spot)]
    const floor = planner.map.floorAt(x, y, place[2])
    if (!floor || !planner.map.isFree(floor, x, y)) place = planner.map.placeOn(spot)
  }
  if (isTaken(engine, place, profile.radiusM, profile.heightM)) return false
  if ((row.beyondM > 0 || row.unseen) && isWatched(engine, row, place, profile.heightM)) return false
  // A flyer appears at the height its spawner stands at, within its band.
  if (profile.medium === 'air' && spot) {
    const high = Math.min(place[2] + profile.maxAltitudeM - profile.minAltitudeM, Math.max(place[2], z))
    place = [place[0], place[1], high]
  }
  const number = ++world.by.sent[k]
  world.by.there[k]++
  enter(engine, k, number, variant, place, exact.cos(facingRad), exact.sin(facingRad))
  return true
}

/** Is a player too near to a place, or could it see it if it looked that way? */
export function isWatched(engine: Engine, row: SpawnRow, [x, y, z]: Point3, heightM: number): boolean {
  const { world, scenario } = engine
  for (let m = 0; m < world.count; m++) {
    if (world.key[m] === 0 || !engine.spawnerOf(m)?.standIn) continue
    const far = exact.hypot(world.x[m] - x, world.y[m] - y)
    if (far < row.beyondM) return true
    const body = scenario.profiles[world.profile[m]]
    if (!row.unseen || !body || far > body.profile.sightM) continue
    const { terrain } = body.planner.map.source
    if (canSee(terrain, world.x[m], world.y[m], world.z[m] + body.eyeM, x, y, z + HEAD * heightM)) return true
  }
  return false
}

/** Puts an agent of a spawner into the world. @param headX @param headY the direction it faces, of length one */
export function enter(
  engine: Engine,
  k: number,
  number: number,
  variant: number,
  place: Point3,
  headX: number,
  headY: number,
): number {
  const { world, t, scenario } = engine
  const row = scenario.spawners[k]!
  const told = row.variants[variant] ?? row.variants[0]
  const { profile, planner, id } = scenario.profiles[told.profile]!
  const n = world.take()
  world.spawner[n] = k
  world.number[n] = number
  world.variant[n] = variant
  world.profile[n] = told.profile
  world.radius[n] = profile.radiusM
  world.height[n] = profile.heightM
  ;[world.x[n], world.y[n], world.z[n]] = place
  world.headX[n] = headX
  world.headY[n] = headY
  world.appeared[n] = world.legSince[n] = world.roundSince[n] = t
  world.limit[n] = LIMIT['setting-out']
  const spot = planner.map.reachedAt(...place)
  if (spot) setSpot(engine, n, spot)
  engine.members.push({
    key: world.key[n],
    id: `${row.id}#${number}`,
    name: nameOf(row, number),
    spawnerId: row.id,
    profileId: id,
    variant,
    appearedS: t,
    leftS: undefined,
  })
  engine.log(n, 'appeared')
  world.state[n] = spot ? STATE.idle : STATE.blocked
  if (!spot) {
    world.failed[n] = 1
    world.until[n] = Infinity
    engine.log(n, 'blocked', 0, -1, -1)
  }
  return n
}

/** What an agent of a spawner is called. */
export function nameOf({ calls, name, count, keeps }: SpawnRow, number: number): string {
  if (calls) return calls.includes('#') ? calls.replaceAll('#', String(number)) : `${calls} ${number}`
  return count === 1 && !keeps ? name : `${name} ${number}`
}
