import type { Level } from '@tidytrail/core/level'
import type { LegPlanner } from '@tidytrail/core/network'
import { avoid, isThere } from './avoid'
import { cross } from './cross'
import { decide } from './decide'
import { judge, type Verdict } from './judge'
import { Measures } from './measure'
import { move } from './move'
import { createAgents } from './create-agents'
import { FRAMES_PER_SECOND, Recording } from './recording'
import { spawn } from './spawn'
import { steer } from './steer'
import type { World } from './world'

/** Squares in which it is looked for who is near, metres. */
const SQUARE_M = 2

/** One run of a level: stepped, recorded and judged. The same level, settings and seed give the same recording. */
export class Rehearsal {
  readonly world: World
  readonly recording = new Recording()
  private readonly measures: Measures
  private steps = 0
  private readonly stepsPerFrame: number

  /** @param plannerFor gives the ways over the reach map of a profile, or undefined when nobody of it can be placed */
  constructor(
    level: Level,
    readonly seed: number,
    plannerFor: (profileId: string) => LegPlanner | undefined,
  ) {
    this.world = createAgents(level, seed, plannerFor)
    this.measures = new Measures(this.world.agents.length)
    this.stepsPerFrame = Math.max(1, Math.round(level.settings.stepsPerSecond / FRAMES_PER_SECOND))
    this.recording.take(this.world)
  }

  private readonly isAway = (n: number) => !isThere(this.world, n)

  /** Seconds rehearsed so far. */
  get t(): number {
    return this.world.t
  }

  /** Goes on by one step; a new frame is recorded when one is due. */
  step(): void {
    const { world } = this
    spawn(world)
    world.near.sort(world.agents.length, world.x, world.y, this.isAway, SQUARE_M)
    decide(world)
    cross(world)
    steer(world)
    avoid(world)
    move(world)
    this.steps++
    world.t = this.steps * world.stepS
    this.measures.take(world)
    if (this.steps % this.stepsPerFrame === 0) this.recording.take(world)
  }

  /** Goes on until a time, seconds since the beginning. */
  runTo(t: number): void {
    while (this.world.t < t - 1e-9) this.step()
  }

  verdicts(): Verdict[] {
    return judge(this.world, this.measures)
  }

  get hash(): string {
    return this.recording.hash
  }
}
