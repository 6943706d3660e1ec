import type { Halt } from '@tidytrail/core/level'
import { placeNeedsM, placesOf } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { sentOn } from '../lanes'

/** A halt may reach so far beyond the end of its lane, metres: that is how its length is read off. */
const OVER_M = 0.5

export const laneHaltNoRoom: Check = {
  id: 'lane.halt-no-room',
  stage: 'routes',
  severity: 'warning',
  sentence:
    'A platform or a row of parking places lies beyond the end of its lane, or its places are too short for somebody who is sent and may stand there.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    const lane = route.kind === 'lane' && route.halts.length > 0 ? look.lanes.lane(id) : undefined
    if (!lane) return []
    const { lengthM } = lane.line
    const sent = sentOn(look, route)
    const faults: string[] = []
    const mended = route.halts.flatMap((halt): Halt[] => {
      const what = halt.where === 'on' ? 'platform' : 'parking'
      const who = sent
        .filter((p) => halt.profileIds.length === 0 || halt.profileIds.includes(p.id))
        .reduce((most, p) => (p.radiusM > (most?.radiusM ?? 0) ? p : most), undefined as (typeof sent)[0] | undefined)
      const needsM = halt.where === 'on' || !who ? 0 : Math.ceil(placeNeedsM(who.radiusM) * 10) / 10
      const fits = { ...halt, toM: Math.min(halt.toM, Math.floor(lengthM * 10) / 10), placeM: Math.max(halt.placeM, needsM) } // prettier-ignore
      if (halt.toM > lengthM + OVER_M)
        faults.push(`its ${what} reaches to ${halt.toM.toFixed(0)} m, and the lane is ${lengthM.toFixed(0)} m long`) // prettier-ignore
      else if (needsM > halt.placeM)
        faults.push(`parking places of ${halt.placeM.toFixed(1)} m are too short for ${who!.name}, who needs ${needsM.toFixed(1)} m to come in between others`) // prettier-ignore
      else if (placesOf(halt, lengthM).length === 0) faults.push(`its ${what} has no room for anybody`)
      else return [halt]
      return placesOf(fits, lengthM).length > 0 ? [fits] : []
    })
    if (faults.length === 0) return []
    const gone = route.halts.length - mended.length
    return [
      {
        subjects: [id],
        at: lane.line.places[0],
        message: `On ${route.name} ${faults[0]}.${faults.length > 1 ? ` So it is with ${faults.length} of its halts.` : ''}`,
        fix: {
          label: gone > 0 ? 'Make them fit, and take away what cannot' : 'Make them fit',
          edit: 'changeThings',
          args: { in: 'routes', changes: { [id]: { halts: mended } } },
        },
      },
    ]
  },
}
