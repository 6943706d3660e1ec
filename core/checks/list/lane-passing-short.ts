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
    const lane = look.lanes.lane(id)
    const road = lane?.roadId && lane.key === 'a1' ? look.level.thing('roads', lane.roadId) : undefined
    if (!lane || !road?.track) return []
    const [worst] = sentOn(look, lane.route).sort((a, b) => 2 * b.radiusM + b.keepsM - (2 * a.radiusM + a.keepsM))
    if (!worst) return []
    const needsM = 2 * worst.radiusM + worst.keepsM
    const wideM = Math.max(...sentOn(look, lane.route).map((p) => 2 * p.radiusM)) + 2 * BESIDE_M
    const rooms = look.lanes.roomBeyondNarrows(id)
    const short = rooms.findIndex((m) => m < needsM)
    const narrow = road.laneM < wideM - 1e-9
    if (short < 0 && !narrow) return []
    const more = (needsM - rooms[short] + OVER_M) / 2
    const passing = road.passing.map(({ fromM, toM }) => ({
      fromM: Math.max(0, Math.round((fromM - more) * 10) / 10),
      toM: Math.round((toM + more) * 10) / 10,
    }))
    const laneM = Math.ceil(wideM * 20) / 20
    return [
      {
        subjects: [lane.roadId!, id],
        at: look.level.thing('waypoints', lane.startId)!.at,
        message: narrow
          ? `Lanes of ${road.laneM.toFixed(2)} m on ${road.name} are too narrow for two bodies of ${(wideM - 2 * BESIDE_M).toFixed(1)} m to pass each other anywhere.`
          : `${road.name} has ${rooms[short].toFixed(1)} m between two narrow stretches, and ${worst.name} needs ${needsM.toFixed(1)} m to wait there.`,
        fix: {
          label: narrow ? `Make its lanes ${laneM.toFixed(2)} m wide` : 'Make its passing places longer',
          edit: 'changeThings',
          args: { in: 'roads', changes: { [lane.roadId!]: narrow ? { laneM } : { passing } } },
        },
      },
    ]
  },
}
