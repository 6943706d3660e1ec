import { exact } from '@tidytrail/core/geometry'
import { LIMIT } from './events'
import type { Engine } from './engine'
import { MAX_AGENTS } from './scenario'
import { setSpot } from './travel'
import { standsAt, STATE } from './world'

/** Lets those appear whose time has come; where somebody stands, one waits until there is room. */
export function spawn(engine: Engine): void {
  const { world, t, scenario } = engine
  for (const k of scenario.order) {
    const row = scenario.spawners[k]!
    while (world.sent[k] < row.count && t + 1e-9 >= world.nextAt[k] && world.count < MAX_AGENTS) {
      if (!appear(engine, k)) break
      // The next one keeps its distance in time from when this one was due, unless it had to wait.
      world.nextAt[k] = Math.max(world.nextAt[k], t - scenario.stepS) + row.everyS
      if (row.everyS === 0) break
    }
  }
}

/** @returns false where there is no room yet */
function appear(engine: Engine, k: number): boolean {
  const { world, t, scenario } = engine
  const row = scenario.spawners[k]!
  const { profile, planner, id } = scenario.profiles[row.profile]!
  const [x, y, z] = row.at
  const spot = planner.map.reachedAt(x, y, z)
  let place = row.at
  if (spot) {
    place = [x, y, planner.map.zOf(spot)]
    const floor = planner.map.floorAt(x, y, place[2])
    if (!floor || !planner.map.isFree(floor, x, y)) place = planner.map.placeOn(spot)
  }
  if (isTaken(engine, place, profile.radiusM, profile.heightM)) return false
  const n = world.take()
  world.spawner[n] = k
  world.number[n] = ++world.sent[k]
  world.profile[n] = row.profile
  world.radius[n] = profile.radiusM
  world.height[n] = profile.heightM
  ;[world.x[n], world.y[n], world.z[n]] = place
  // A flyer appears at the height its spawner stands at, within its band.
  if (profile.medium === 'air' && spot) {
    world.z[n] = Math.min(place[2] + profile.maxAltitudeM - profile.minAltitudeM, Math.max(place[2], z))
  }
  world.headX[n] = exact.cos(row.facingRad)
  world.headY[n] = exact.sin(row.facingRad)
  world.appeared[n] = world.legSince[n] = world.roundSince[n] = t
  world.limit[n] = LIMIT['setting-out']
  if (spot) setSpot(engine, n, spot)
  engine.members.push({
    key: world.key[n],
    id: `${row.id}#${world.number[n]}`,
    name: row.count === 1 ? row.name : `${row.name} ${world.number[n]}`,
    spawnerId: row.id,
    profileId: id,
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
  return true
}

/** Does somebody stand where an agent is to appear? */
function isTaken({ world }: Engine, [px, py, pz]: readonly number[], radiusM: number, heightM: number): boolean {
  const { key, count } = world
  for (let m = 0; m < count; m++) {
    if (key[m] === 0) continue
    if (standsAt(world, m, px, py, pz, radiusM, heightM)) return true
  }
  return false
}
