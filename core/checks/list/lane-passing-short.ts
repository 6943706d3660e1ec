import type { Road } from '@tidytrail/core/level'
import type { Check } from '../check'
import { sentOn } from '../lanes'

/** A passing place is made so much longer than needed, metres: its tapers count for little. */
const OVER_M = 1
/** A lane is wider than a body by this on either side for two to pass, metres. */
const BESIDE_M = 0.2

export const lanePassingShort: Check = {
  id: 'lane.passing-short',
  stage: 'routes',
  severity: 'warning',
  sentence:
    'On a track there is nowhere for somebody who is sent along it to pass those who come towards him, or to wait between two narrow stretches.',
  each: 'routes',
  run(look, id) {
    const track = look.lanes.track(id)
    const lane = track && look.lanes.lane(id)
    const road = lane?.roadId && look.level.thing('roads', lane.roadId)
    if (!track || !lane || !road) return []
    const longM = (p: { radiusM: number; keepsM: number }) => 2 * p.radiusM + p.keepsM
    const [worst] = sentOn(look, lane.route).sort((a, b) => longM(b) - longM(a))
    if (!worst) return []
    const roadId = lane.roadId!
    const tell = (message: string, mend?: { label: string; set: Partial<Road> }) => [
      {
        subjects: [roadId, id],
        at: look.level.thing('waypoints', lane.startId)!.at,
        message,
        ...(mend && {
          fix: { label: mend.label, edit: 'changeThings' as const, args: { in: 'roads' as const, changes: { [roadId]: mend.set } } }, // prettier-ignore
        }),
      },
    ]
    const wideM = track.bodyM + 2 * BESIDE_M
    const laneM = Math.ceil(wideM * 20 - 1e-6) / 20
    if (road.laneM < wideM - 1e-9)
      return tell(
        `Lanes of ${road.laneM.toFixed(2)} m on ${road.name} are too narrow for two bodies of ${track.bodyM.toFixed(1)} m to pass each other anywhere.`,
        { label: `Make its lanes ${laneM.toFixed(2)} m wide`, set: { laneM } },
      )
    const needsM = longM(worst)
    const needs = `${worst.name} needs ${needsM.toFixed(1)} m to wait there.`
    const least = Math.min(...track.between)
    if (least < needsM) {
      const more = (needsM - least + OVER_M) / 2
      const passing = road.passing.map(({ fromM, toM }) => ({
        fromM: Math.max(0, Math.round((fromM - more) * 10) / 10),
        toM: Math.round((toM + more) * 10) / 10,
      }))
      return tell(`${road.name} has ${least.toFixed(1)} m between two narrow stretches, and ${needs}`, {
        label: 'Make its passing places longer',
        set: { passing },
      })
    }
    const end = Math.min(...track.ends)
    // How long its ends are is none of ours to say: a longer road, or a shorter body, is.
    return end < needsM ? tell(`${road.name} has ${end.toFixed(1)} m at its end, and ${needs}`) : []
  },
}
