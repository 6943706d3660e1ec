import type { Point3 } from '@tidytrail/core/geometry'
import { areaOfZone, shareOfZone } from '../cast'
import type { Check, Look } from '../check'
import { usualProfile } from '../travellers'

/** The way from one start may be longer than that from another by so much, as a share. */
const ALLOWED = 0.25

export const balanceStarts: Check = {
  id: 'balance.starts',
  stage: 'cast',
  severity: 'note',
  sentence: 'From one start it is much farther to what is contested than from another.',
  each: 'zones',
  run(look, id) {
    const contest = look.level.thing('zones', id)!
    const profileId = usualProfile(look)
    if (contest.purpose !== 'contest' || !profileId) return []
    const goal = standing(look, id, profileId)
    if (!goal) return []
    const ways = Object.entries(look.level.all('zones')).flatMap(([startId, zone]) => {
      const from = zone.purpose === 'start' ? standing(look, startId, profileId) : undefined
      const path = from && look.reach.path(profileId, from, goal, 'found')
      return path?.found ? [{ startId, name: zone.name, m: path.lengthM }] : []
    })
    if (ways.length < 2) return []
    ways.sort((a, b) => a.m - b.m || (a.startId < b.startId ? -1 : 1))
    const [near, far] = [ways[0], ways[ways.length - 1]]
    if (far.m <= near.m * (1 + ALLOWED)) return []
    return [
      {
        subjects: [id, near.startId, far.startId],
        at: goal,
        message: `To ${contest.name} it is ${Math.round(near.m)} m from ${near.name} and ${Math.round(far.m)} m from ${far.name}.`,
      },
    ]
  },
}

/** A place that stands for a zone: its middle, or one near it. */
function standing(look: Look, zoneId: string, profileId: string): Point3 | undefined {
  const zone = look.level.thing('zones', zoneId)!
  const area = areaOfZone(look, zone)
  if (!area) return undefined
  const share = shareOfZone(look, zone, profileId)
  const z = share?.at?.[2] ?? 0
  const [x, y] = area.middle
  return share?.map.nearestReached(x, y, z, 10)?.at ?? share?.at
}
