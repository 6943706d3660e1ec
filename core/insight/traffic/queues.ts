import { FRAMES_PER_SECOND, LIMITS, type Recorded } from '@tidytrail/core/rehearsal'
import { laneNet, waysOf } from '@tidytrail/core/traffic'
import { quantile } from '../figures'
import type { OnLane } from './walk'

/** What is slower than this before a line is in its queue, metres a second. */
const QUEUED_MPS = 1.4
/** An approach is looked at so far back from its line, metres. */
const BACK_M = 150
/** Places are told in stretches of so many metres. */
const CELL_M = 20
const SLOWEST = 12

/** How it goes on a lane that leads to a junction. Seconds; queues in vehicles. */
export interface Approach {
  readonly junctionId: string
  readonly laneId: string
  /** Those who went over the line, and who of them stood before it. */
  readonly count: number
  readonly stopped: number
  /** Time lost against driving on freely. */
  readonly meanS: number
  readonly p95S: number
  readonly queueMean: number
  readonly queueMost: number
  /** Those who came an hour: who went over the line, and who are still before it. */
  readonly perH: number
}

/** A stretch of a lane on which time is lost, and what by. */
export interface SlowPlace {
  readonly laneId: string
  readonly fromM: number
  readonly toM: number
  /** Seconds all together lost there against driving on freely. */
  readonly lostS: number
  readonly vehicles: number
  /** What held them back, that of most of the time first, with its share of it. */
  readonly causes: readonly { readonly limit: string; readonly share: number }[]
}

interface Line {
  readonly junctionId: string
  readonly laneId: string
  readonly lineM: number
  readonly fromM: number
  readonly delays: number[]
  stopped: number
  readonly under: Map<number, { since: number; m: number; free: number; stood: boolean }>
  readonly queue: Map<number, number>
}

/** Notes queues, waiting and lost time, while a recording is walked through. */
export class Queueing {
  private readonly lines = new Map<string, Line[]>()
  private readonly cells = new Map<string, { lost: number; keys: Set<number>; by: Map<number, number> }>()

  constructor(private readonly recorded: Recorded) {
    const net = laneNet(recorded.level)
    for (const [junctionId, junction] of Object.entries(recorded.level.junctions)) {
      const own = new Map<string, number>()
      for (const way of waysOf(recorded.level, net, junction))
        own.set(way.from, Math.min(own.get(way.from) ?? Infinity, way.fromM))
      for (const [laneId, lineM] of own) {
        if (net.lanes.get(laneId)!.closed || lineM < 1) continue
        const line: Line = { junctionId, laneId, lineM, fromM: Math.max(0, lineM - BACK_M), delays: [], stopped: 0, under: new Map(), queue: new Map() } // prettier-ignore
        this.lines.set(laneId, [...(this.lines.get(laneId) ?? []), line])
      }
    }
  }

  take(on: OnLane): void {
    const { t, key, lane, m, beforeM, mps, limit, freeMps } = on
    const lost = Math.max(0, 1 - mps / freeMps) / FRAMES_PER_SECOND
    if (lost > 0.02) {
      const id = `${lane.id} ${Math.floor(m / CELL_M)}`
      let cell = this.cells.get(id)
      if (!cell) this.cells.set(id, (cell = { lost: 0, keys: new Set(), by: new Map() }))
      cell.lost += lost
      cell.keys.add(key)
      cell.by.set(limit, (cell.by.get(limit) ?? 0) + lost)
    }
    for (const line of this.lines.get(lane.id) ?? []) {
      const under = line.under.get(key)
      // Its front stands at the line when its middle is still a little before it.
      if (m > line.lineM - 0.2) {
        if (under) this.leave(line, key, t)
        continue
      }
      if (m < line.fromM) continue
      if (!under) {
        // Only of those who come from farther back is it known how long they took.
        if (beforeM === undefined || beforeM <= line.fromM + 1)
          line.under.set(key, { since: t, m, free: freeMps, stood: false })
        else continue
      }
      if (mps < QUEUED_MPS) {
        line.under.get(key)!.stood = true
        const f = Math.round(t * FRAMES_PER_SECOND)
        line.queue.set(f, (line.queue.get(f) ?? 0) + 1)
      }
    }
    // Who is on another lane by now has gone over the line.
    if (beforeM === undefined)
      for (const lines of this.lines.values())
        for (const line of lines) if (line.laneId !== lane.id && line.under.has(key)) this.leave(line, key, t)
  }

  private leave(line: Line, key: number, t: number): void {
    const { since, m, free, stood } = line.under.get(key)!
    line.under.delete(key)
    line.delays.push(Math.max(0, t - since - (line.lineM - m) / free))
    if (stood) line.stopped++
  }

  approaches(): Approach[] {
    const frames = Math.max(1, this.recorded.frameCount)
    return [...this.lines.values()].flat().map(({ junctionId, laneId, delays, stopped, queue, under }) => {
      const sorted = [...delays].sort((a, b) => a - b)
      const queues = [...queue.values()]
      return {
        junctionId,
        laneId,
        count: sorted.length,
        stopped,
        meanS: sorted.length > 0 ? sorted.reduce((a, b) => a + b, 0) / sorted.length : 0,
        p95S: sorted.length > 0 ? quantile(sorted, 0.95) : 0,
        queueMean: queues.reduce((a, b) => a + b, 0) / frames,
        queueMost: Math.max(0, ...queues),
        perH: ((sorted.length + under.size) * 3600 * FRAMES_PER_SECOND) / frames,
      }
    })
  }

  slowest(): SlowPlace[] {
    const all = [...this.cells].map(([id, { lost, keys, by }]) => {
      const [laneId, cell] = id.split(' ')
      const fromM = Number(cell) * CELL_M
      const causes = [...by].map(([limit, s]) => ({ limit: LIMITS[limit] as string, share: s / lost }))
      causes.sort((a, b) => b.share - a.share)
      return { laneId, fromM, toM: fromM + CELL_M, lostS: lost, vehicles: keys.size, causes }
    })
    return all.sort((a, b) => b.lostS - a.lostS || (a.laneId < b.laneId ? -1 : 1)).slice(0, SLOWEST)
  }
}
