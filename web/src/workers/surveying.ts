import { CheckedSurvey, keyOf, mendInTurn, waysOut } from '@tidytrail/core/checks'
import { climbOf, distance3, type Point3 } from '@tidytrail/core/geometry'
import { isMesh, meshAsset, provideAsset, terrainOf } from '@tidytrail/core/ground'
import { applyPatch, areaOf, eyesOf, type Level, type PatchOp, type Route } from '@tidytrail/core/level'
import {
  courseOf,
  elevationOf,
  legsOf,
  legPath,
  measureRoute,
  islandNeeds,
  pairsInSight,
  elevationAlong,
  profilesOfRoute,
  pruneLinks,
  timeOverCovers,
} from '@tidytrail/core/network'
import { nearestGap, passageFor, suggestPassages, suggestPosts, whyNotHere } from '@tidytrail/core/reach'
import type { SurveyProgress } from '@tidytrail/core/survey'
import { castFacts, profileInZone } from './cast-facts'
import { connect } from './connect'
import { Crew } from './crew'
import { islandUsers } from './island-users'
import { drawMeshPlan } from './mesh-plan'
import { stipple } from './stipple'
import type { LegAnswer, Surveyor, SurveyListener } from './surveyor.protocol'

import { SurveyReporter } from './survey-report'
import { makeRehearsing } from './rehearsing'
import { makeTrier } from './trying'
import { wordsOf } from './words-of'

/** Islands beyond this many are not told of one by one. */
const MOST_ISLANDS = 60

/** Time between looks whether a newer level has come, or tiles from the other thread, ms. */
const SLICE_MS = 6

/** So often what is known already of a reach looked at for the first time is told, ms. */
const PICTURE_MS = 1000

/**
 * The surveyor: keeps a survey of the level it is told of, and answers questions about it.
 * @param breathe lets waiting messages in @param crew another thread that builds tiles too
 */
export function makeSurveyor(breathe: () => Promise<void>, survey = new CheckedSurvey(), crew = new Crew()): Surveyor {
  const reporter = new SurveyReporter(survey)
  let level: Level | undefined
  let stamp = 0
  let listener: SurveyListener | undefined
  let running = false
  const trier = makeTrier(survey, (of, offers) => listener?.offers(of, offers))
  const rehearsing = makeRehearsing(
    survey,
    breathe,
    () => running,
    () => level,
    () => idle(),
  )
  /** Something else than the level has changed: an asset has come, or a profile is looked at. */
  let again = false
  /** What has changed since the survey last took a level; undefined when all may have. */
  let since: PatchOp[] | undefined
  let hushed = false
  /** There is nothing else to do: fixes are tried. */
  function idle(): void {
    if (level) trier.start(stamp, hushed ? ({ stage }) => stage === 'rehearse' : undefined)
  }
  /** Tells what is known of the reach that is looked at, before the rest is. @param of the stamp of the level */
  function pictures(of: number) {
    let last = performance.now()
    return ({ done, total, ready, mapOf }: SurveyProgress) => {
      const profileId = survey.looked?.profileId
      const whole = profileId !== undefined && ready === profileId
      if (profileId === undefined || (done === total && !whole)) return
      const map = mapOf(profileId)
      if (!map || !(whole || (map.version === 0 && performance.now() - last > PICTURE_MS))) return
      const reach = whole ? reporter.ready(profileId) : reporter.soFar(profileId, map)
      if (reach) listener?.picture(of, profileId, reach)
      last = performance.now()
    }
  }
  async function work(): Promise<void> {
    if (running) return
    trier.stop()
    running = true
    try {
      for (;;) {
        const mine = stamp
        const current = level
        if (!current) break
        const began = performance.now()
        let slice = began
        let abandoned = false
        const patch = since
        since = []
        again = false
        let told = false
        const picture = pictures(mine)
        for (const progress of survey.updating(current, patch, crew.aid())) {
          const { done, total, boxes } = progress
          picture(progress)
          if (performance.now() - slice < SLICE_MS) continue
          listener?.progress(mine, done, total, told ? undefined : boxes())
          told = true
          await breathe()
          slice = performance.now()
          if (stamp !== mine && total - done > 4) {
            abandoned = true
            break
          }
        }
        if (abandoned) continue
        rehearsing.edited(current)
        listener?.report(reporter.report(current, mine, performance.now() - began))
        await breathe()
        if (stamp !== mine || again) continue
        idle()
        break
      }
    } catch (error) {
      listener?.failed(wordsOf(error))
    } finally {
      running = false
    }
  }

  const { beforeEdit: _before, edited: _edited, start: startRehearsing, ...rehearser } = rehearsing
  return {
    ...rehearser,
    begin(run, seed, seconds, plan) {
      // Fixes are tried again when the run is there.
      trier.stop()
      rehearsing.begin(run, seed, seconds, plan)
    },
    hush(on) {
      hushed = on
      trier.stop()
      // While it is being worked on, that ends with it.
      if (!running) idle()
    },
    start(to: SurveyListener) {
      listener = to
      startRehearsing(to)
    },
    setLevel(next: Level, at: number) {
      // Whoever began before the first level had come waits for it.
      if (level) rehearsing.giveUp()
      level = next
      crew.setLevel(next)
      since = undefined
      stamp = at
      void work()
    },
    patch(ops: PatchOp[], at: number) {
      if (!level) return
      rehearsing.beforeEdit(ops)
      level = applyPatch(level, ops)
      crew.patch(ops)
      since?.push(...ops)
      stamp = at
      void work()
    },
    give(hash, bytes) {
      provideAsset(hash, bytes)
      crew.give(hash, bytes)
      again = true
      void work()
      const mesh = isMesh(bytes) ? meshAsset(hash) : undefined
      return mesh && { lookup: mesh.lookup, plan: drawMeshPlan(mesh.data, mesh.lookup) }
    },
    watch(profileIds) {
      survey.also = profileIds
      again = true
      void work()
    },
    look(profileId, x, y) {
      survey.looked = profileId === undefined ? undefined : { profileId, x, y }
    },
    path(profileId: string, from: Point3, to: Point3, legs: Route['legs'] = 'found'): LegAnswer | undefined {
      const planner = survey.plannerFor(profileId)
      if (!planner || planner.map.version === 0) return undefined
      const path = planner.path(from, to, legs)
      const why = path.found
        ? undefined
        : path.why === 'start-off-reach'
          ? whyNotHere(planner.map, from)
          : path.why === 'end-off-reach'
            ? whyNotHere(planner.map, to)
            : 'nothing joins the two sides'
      const profile = level?.profiles[profileId]
      const times: Record<string, number> = {}
      if (path.found && level && profile) {
        for (const [gait, speed] of Object.entries(profile.gaits))
          times[gait] = timeOverCovers(path, level.covers, speed)
      }
      const { map } = planner
      const [a, b] = path.found || path.why !== 'apart' ? [] : [map.reachedAt(...from), map.reachedAt(...to)]
      const help =
        a && b && profile ? passageFor(map, profile, map.islandOf(a), map.islandOf(b), planner.joinsIslands) : undefined
      const climbM = path.found ? climbOf(elevationAlong(map, path.line, 0.5, path.uses)) : 0
      return { path, climbM, why, times, help }
    },
    whyNot(profileId: string, at: Point3) {
      const map = survey.plannerFor(profileId)?.map
      if (!map || map.version === 0) return undefined
      const why = whyNotHere(map, at)
      const spot = map.reachedAt(...at)
      return {
        reached: why === undefined,
        text: why ?? 'can stand here',
        island: why === undefined && spot ? map.islandOf(spot) : -1,
      }
    },
    facts(routeId) {
      const route = level?.routes[routeId]
      const profileId = level && route && profilesOfRoute(level, routeId).find((p) => survey.plannerFor(p))
      const planner = profileId === undefined ? undefined : survey.plannerFor(profileId)
      if (!level || !route || !profileId || !planner || route.kind === 'network' || route.order.length < 2)
        return undefined
      const { waypoints } = level
      const places = route.order.map((s) => waypoints[route.stops[s].waypointId].at)
      const paths = legsOf(route).map((leg) => legPath(planner, route, waypoints, leg.from, leg.to))
      const elevation = elevationOf(route, places, paths, terrainOf(level))
      const course = courseOf(route, waypoints)
      const measures = measureRoute(route, course, paths, elevation, level.profiles[profileId], level.covers)
      return { profileId, elevation, measures }
    },
    waysOut(key) {
      const finding = running ? undefined : survey.findings.find((f) => keyOf(f) === key)
      return finding && waysOut(survey, finding)
    },
    helps(key, fix) {
      if (running) return undefined
      const finding = survey.findings.find((f) => keyOf(f) === key)
      return finding !== undefined && waysOut(survey, finding, 1, [fix]).length > 0
    },
    mendable(keys) {
      if (running) return undefined
      const wanted = new Set(keys)
      return mendInTurn(
        survey,
        survey.findings.filter((f) => wanted.has(keyOf(f))),
      )
    },
    connect(profileId, fromId, toId) {
      const planner = survey.plannerFor(profileId)
      return level && planner ? connect(level, planner, profileId, fromId, toId) : undefined
    },
    inSight(profileId, waypointIds, withinM) {
      const planner = survey.plannerFor(profileId)
      if (!level || !planner) return []
      const { waypoints } = level
      const ids = waypointIds.filter((id) => waypoints[id])
      const places = ids.map((id) => waypoints[id].at)
      return pairsInSight(places, withinM, (a, b) => {
        const path = planner.path(a, b, 'drawn')
        return path.found && path.uses.length === 0
      }).map(([a, b]) => [ids[a], ids[b]])
    },
    spare(routeId, stretch) {
      const route = level?.routes[routeId]
      if (!level || !route) return []
      const { links, waypoints } = level
      const nodes = new Map<string, number>()
      const number = (id: string) => nodes.get(id) ?? (nodes.set(id, nodes.size), nodes.size - 1)
      const list = route.linkIds.map((id) => {
        const { fromId, toId, twoWay, costFactor } = links[id]
        const cost = distance3(waypoints[fromId].at, waypoints[toId].at) * costFactor
        return { from: number(fromId), to: number(toId), cost, twoWay }
      })
      const kept = new Set(pruneLinks(nodes.size, list, stretch))
      return route.linkIds.filter((_, k) => !kept.has(k))
    },
    islands(profileId) {
      const map = survey.plannerFor(profileId)?.map
      if (!map || !level) return []
      const users = islandUsers(level, map, profileId)
      return map.islands.list.slice(0, MOST_ISLANDS).map((_, n) => ({
        users: users.get(n) ?? [],
        gap: map.islands.list.length > 1 ? nearestGap(map, n) : undefined,
      }))
    },
    suggest(profileId) {
      const planner = survey.plannerFor(profileId)
      const profile = level?.profiles[profileId]
      if (!level || !planner || !profile) return []
      const needs = islandNeeds(level, planner, profileId)
      return suggestPassages(planner.map, profile, { needs, joins: planner.joinsIslands })
    },
    cast: (seed) => level && castFacts(level, survey.plannerFor, seed),
    suggestPosts(zoneId, most) {
      const zone = level?.zones[zoneId]
      const profileId = level && profileInZone(level, zoneId)
      const map = profileId && survey.plannerFor(profileId)?.map
      const area = zone && areaOf(level!, zone)
      return map && area ? suggestPosts(map, area, eyesOf(level!.profiles[profileId]), most) : []
    },
    stipple(profileId, everyM) {
      const map = survey.plannerFor(profileId)?.map
      return map && stipple(map, everyM)
    },
  }
}
