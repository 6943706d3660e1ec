import type { Spawner } from '@tidytrail/core/level'
import { areaOfZone, fromSpot, placesCount, shareOfZone } from '../cast'
import type { Check, Look } from '../check'
import type { Fix } from '../fix'

export const spawnerNever: Check = {
  id: 'spawner.never',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A spawner never sends anybody: it has no place to, nobody to send, or waits for what cannot happen.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const why = whyNever(look, id, spawner)
    if (!why) return []
    const { words, fix } = why
    return [
      {
        subjects: [id],
        at: spawner.at,
        message: `${spawner.name} never sends anybody: ${words}.`,
        ...(fix ? { fix } : {}),
      },
    ]
  },
}

function whyNever(look: Look, id: string, spawner: Spawner): { words: string; fix?: Fix } | undefined {
  const set = (label: string, values: Partial<Spawner>): Fix => ({
    label,
    edit: 'changeThings',
    args: { in: 'spawners', changes: { [id]: values } },
  })
  const begin = set('Let it begin at the start', { begins: 'start' })
  if (!spawner.profileId) {
    const [usual] = Object.keys(look.level.all('profiles')).sort()
    const name = usual && look.level.thing('profiles', usual)!.name
    return { words: 'it has no profile', ...(usual ? { fix: set(`Send ${name}`, { profileId: usual }) } : {}) }
  }
  if (spawner.where === 'area') {
    const zone = spawner.zoneId ? look.level.thing('zones', spawner.zoneId) : undefined
    if (!zone) return { words: 'no zone is chosen for it to send into', fix: fromSpot(id, spawner) }
    if (!areaOfZone(look, zone)) return { words: `${zone.name} lies along no route`, fix: fromSpot(id, spawner) }
    const share = shareOfZone(look, zone, spawner.profileId)
    if (share?.floorM2 === 0)
      return { words: `nowhere in ${zone.name} can its agents stand`, fix: fromSpot(id, spawner) }
  } else if (spawner.where === 'lanes') {
    const why = neverOnto(look, spawner)
    if (why) return { words: why, fix: fromSpot(id, spawner) }
  } else if (placesCount(look, spawner) === 0)
    return { words: 'the route it is to send along is not there, or too short', fix: fromSpot(id, spawner) }
  if (spawner.alive === 'fill' && spawner.count <= look.level.settings().players)
    return {
      words: `it fills ${spawner.count} places, and ${look.level.settings().players} players take them all`,
      fix: set('Send that many in any case', { alive: 'all' }),
    }
  if (spawner.untilS !== null && spawner.untilS < spawner.firstAfterS)
    return {
      words: `it ends after ${spawner.untilS} s, before it sends the first after ${spawner.firstAfterS} s`,
      fix: set('Let it go on without end', { untilS: null }),
    }
  if (spawner.begins === 'entered' || spawner.begins === 'emptied')
    return spawner.triggerZoneId && look.level.thing('zones', spawner.triggerZoneId)
      ? undefined
      : { words: 'no zone is chosen that it waits about', fix: begin }
  if (spawner.begins === 'used-up' || spawner.begins === 'left') {
    const other = spawner.triggerSpawnerId
    if (!other)
      return spawner.begins === 'left' ? undefined : { words: 'no spawner is chosen that it waits for', fix: begin }
    if (other === id) return { words: 'it waits for itself', fix: begin }
    if (waitsInRing(look, id)) return { words: 'those it waits for wait for it', fix: begin }
    if (spawner.begins === 'used-up' && look.level.thing('spawners', other)?.alive === 'keep')
      return {
        words: `${look.level.thing('spawners', other)!.name} is never used up, for it keeps its agents`,
        fix: begin,
      }
  }
  return undefined
}

/** Why a stream comes onto no lane. */
function neverOnto(look: Look, { laneIds, profileId, perH, hours }: Spawner): string | undefined {
  if (laneIds.length === 0) return 'no lane is chosen for its stream to come onto'
  if (perH === 0 && hours.every((h) => h.perH === 0)) return 'nobody an hour is to come onto its lanes'
  const { medium, name } = look.level.thing('profiles', profileId!)!
  if (medium !== 'wheels') return `${name} is not on wheels, and only those drive along lanes`
  return laneIds.some((laneId) => look.lanes.lane(laneId)) ? undefined : 'none of its lanes is one to drive along'
}

/** Does a chain of spawners that wait for each other lead back to where it began? */
function waitsInRing(look: Look, id: string): boolean {
  let at: string | null = id
  for (let k = 0; k < 100 && at; k++) {
    const spawner: Spawner | undefined = look.level.thing('spawners', at)
    at = spawner && (spawner.begins === 'used-up' || spawner.begins === 'left') ? spawner.triggerSpawnerId : null
    if (at === id) return true
  }
  return false
}
