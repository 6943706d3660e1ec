import { areaOf, briefIdsOf, type Level } from '@tidytrail/core/level'
import { defaultProfile, type LegPlanner } from '@tidytrail/core/network'
import { reachedShare } from '@tidytrail/core/reach'
import { previewSpawner } from '@tidytrail/core/rehearsal'
import type { CastFacts } from './surveyor.protocol'

/** Of more spawners nothing is foretold: their places would cover the map. */
const MOST_SPAWNERS = 1000

/** The profile a zone is judged by: that of those who are told to be in it or appear in it, else the usual one. */
export function profileInZone(level: Level, zoneId: string): string | undefined {
  for (const s of Object.values(level.spawners)) {
    if (!s.profileId) continue
    const squad = level.squads[s.squadId ?? '']?.zoneId
    if (squad === zoneId || s.zoneId === zoneId) return s.profileId
    for (const briefId of briefIdsOf(level, s))
      for (const step of Object.values(level.briefs[briefId]?.steps ?? {}))
        if ('zoneId' in step && step.zoneId === zoneId) return s.profileId
  }
  return defaultProfile(level)
}

/** What spawners will do with a seed, and how much of each zone can be reached. */
export function castFacts(
  level: Level,
  plannerFor: (profileId: string) => LegPlanner | undefined,
  seed: number,
): CastFacts {
  const spawners: Record<string, CastFacts['spawners'][string]> = {}
  for (const [id, s] of Object.entries(level.spawners).slice(0, MOST_SPAWNERS)) {
    const planner = s.profileId ? plannerFor(s.profileId) : undefined
    if (planner) spawners[id] = previewSpawner(level, id, planner, seed)
  }
  const zones: Record<string, CastFacts['zones'][string]> = {}
  for (const [id, zone] of Object.entries(level.zones)) {
    const profileId = profileInZone(level, id)
    const map = profileId ? plannerFor(profileId)?.map : undefined
    const area = areaOf(level, zone)
    if (!map || !area || !profileId) continue
    const { share, floorM2 } = reachedShare(map, area)
    zones[id] = { share, floorM2, profileId }
  }
  return { spawners, zones }
}
