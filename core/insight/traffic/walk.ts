import { exact } from '@tidytrail/core/geometry'
import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { laneNet, type LaneNet, type MeasuredLine, type NetLane } from '@tidytrail/core/traffic'

/** It is looked for somebody so far behind and ahead of where it last was on its lane, metres. */
const BACK_M = 3
const AHEAD_M = 12

/** Somebody on a lane in one frame of a recording. Metres along it, metres a second. */
export interface OnLane {
  readonly t: number
  readonly key: number
  readonly lane: NetLane
  readonly m: number
  /** Where along the same lane it was a frame ago; undefined for one who has just come onto it. */
  readonly beforeM: number | undefined
  /** Was it there before it came onto this lane? */
  readonly known: boolean
  readonly mps: number
  readonly limit: number
  readonly profileId: string
  /** What it would drive here with nothing in its way. */
  readonly freeMps: number
}

interface Last {
  lane: string
  m: number
}

/** Everybody on a lane, frame by frame, told from the recording alone. */
export function* alongLanes(recorded: Recorded, net: LaneNet = laneNet(recorded.level)): Generator<OnLane> {
  const { frameCount, routes, profiles, level } = recorded
  const lanes = routes.map((id) => net.lanes.get(id))
  const gaits = profiles.map((id) => level.profiles[id]?.gaits[level.profiles[id].gait] ?? 1)
  const last = new Map<number, Last>()
  for (let f = 0; f < frameCount; f++) {
    const frame = recorded.frame(f)
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      const lane = lanes[frame[r + FIELD.route]]
      if (!lane) continue
      const key = frame[r]
      const was = last.get(key)
      const same = was?.lane === lane.id
      const x = frame[r + FIELD.x] / 1000
      const y = frame[r + FIELD.y] / 1000
      const m = same ? nearM(lane.line, x, y, was.m - BACK_M, was.m + AHEAD_M, lane.closed) : nearM(lane.line, x, y)
      const body = frame[r + FIELD.body]
      yield {
        t: f / FRAMES_PER_SECOND,
        key,
        lane,
        m,
        beforeM: same ? was.m : undefined,
        known: was !== undefined,
        mps: frame[r + FIELD.speed] / 1000,
        limit: frame[r + FIELD.limit],
        profileId: profiles[body],
        freeMps: Math.min(gaits[body], lane.route.speedLimitMps ?? Infinity),
      }
      if (same) was.m = m
      else if (was) Object.assign(was, { lane: lane.id, m })
      else last.set(key, { lane: lane.id, m })
    }
  }
}

/** How far along a line the place nearest to another is, between two distances along it, metres. */
function nearM(line: MeasuredLine, x: number, y: number, fromM = -Infinity, toM = Infinity, closed = false): number {
  const { places, s, lengthM } = line
  let best = Infinity
  let m = 0
  const wraps = closed && (fromM < 0 || toM > lengthM)
  for (let k = 1; k < places.length; k++) {
    if (!wraps && s[k] < fromM) continue
    if (!wraps && s[k - 1] > toM) break
    const [ax, ay] = places[k - 1]
    const ux = places[k][0] - ax
    const uy = places[k][1] - ay
    const d2 = ux * ux + uy * uy
    const share = d2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * ux + (y - ay) * uy) / d2)) : 0
    const far = exact.hypot(ax + share * ux - x, ay + share * uy - y)
    if (far < best - 1e-9) {
      best = far
      m = s[k - 1] + share * (s[k] - s[k - 1])
    }
  }
  return m
}
