import { exact, type Point3 } from '@tidytrail/core/geometry'
import { setThings, standInIdOf, type Level } from '@tidytrail/core/level'
import type { Run } from './run'

/** A way along a line by the clock: from metres along it to metres, seconds to seconds. */
export interface Planned {
  readonly points: readonly Point3[]
  readonly moves: readonly {
    readonly fromM: number
    readonly toM: number
    readonly fromS: number
    readonly toS: number
  }[]
}

/** A stand-in that follows a plan is told where to go so many times a second, and looks ahead so far, seconds. */
const TOLD_HZ = 10
const AHEAD_S = 0.35
/** It may catch up at this many times its pace. */
const CATCHES_UP = 1.5

/** The level in which its stand-in appears at the start of a plan when that sets out; undefined where there is none. */
export function placedForPlan(level: Level, { points, moves }: Planned): Level | undefined {
  const id = standInIdOf(level.spawners)
  if (!id || moves.length === 0) return undefined
  const [a, b] = points
  const set = {
    at: [...a],
    where: 'spot',
    begins: 'start',
    count: 1,
    facingRad: exact.atan2(b[1] - a[1], b[0] - a[0]),
    firstAfterS: moves[0].fromS,
  }
  return setThings.apply(level, { things: [{ in: 'spawners', id, set }] }).level
}

/** Steers the stand-in of a run along a plan; to be called before each step. */
export class PlanSteering {
  private readonly s: number[] = [0]

  constructor(private readonly plan: Planned) {
    const { points } = plan
    for (let k = 1; k < points.length; k++)
      this.s.push(
        this.s[k - 1] +
          exact.hypot(
            exact.hypot(points[k][0] - points[k - 1][0], points[k][1] - points[k - 1][1]),
            points[k][2] - points[k - 1][2],
          ),
      )
  }

  steer(run: Run): void {
    const { engine } = run
    const every = Math.max(1, Math.round(1 / engine.scenario.stepS / TOLD_HZ))
    if (run.step % every !== 0) return
    const member = engine.members.find(
      (m) => m.leftS === undefined && engine.scenario.spawners[engine.registers.spawners.of(m.spawnerId)]?.standIn,
    )
    const n = member ? engine.world.slotOf(member.key) : -1
    if (!member || n < 0) return
    const { moves } = this.plan
    const last = moves[moves.length - 1]
    if (run.t > last.toS + AHEAD_S) return run.perform({ step: 0, do: 'steer', agent: member.id, x: 0, y: 0, mps: 0 })
    const [x, y] = this.placeAt(this.alongAt(run.t + AHEAD_S))
    const [dx, dy] = [x - engine.world.x[n], y - engine.world.y[n]]
    const m = exact.hypot(dx, dy)
    const pace = Math.max(...moves.map((v) => (v.toS > v.fromS ? (v.toM - v.fromM) / (v.toS - v.fromS) : 0)))
    const mps = m < 0.05 ? 0 : Math.min(CATCHES_UP * pace, m / AHEAD_S)
    const [ux, uy] = m < 0.05 ? [0, 0] : [dx / m, dy / m]
    run.perform({ step: 0, do: 'steer', agent: member.id, x: ux, y: uy, mps })
  }

  /** How far along the line the plan is at a time, metres. */
  private alongAt(t: number): number {
    const { moves } = this.plan
    if (t <= moves[0].fromS) return moves[0].fromM
    const move = moves.find((v) => t <= v.toS) ?? moves[moves.length - 1]
    const share = move.toS > move.fromS ? Math.min(1, (t - move.fromS) / (move.toS - move.fromS)) : 1
    return move.fromM + share * (move.toM - move.fromM)
  }

  private placeAt(m: number): readonly [number, number] {
    const { s } = this
    const { points } = this.plan
    let k = 1
    while (k < s.length - 1 && s[k] < m) k++
    const share = s[k] > s[k - 1] ? Math.min(1, Math.max(0, (m - s[k - 1]) / (s[k] - s[k - 1]))) : 0
    const [a, b] = [points[k - 1], points[k]]
    return [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])]
  }
}
