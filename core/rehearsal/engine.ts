import { avoid } from './avoid'
import { cross } from './cross'
import { decide } from './decide'
import { EventLog, type EventKind } from './events'
import type { Verdict } from './judge'
import { measure } from './measure'
import { move } from './move'
import { Neighbours } from './neighbours'
import { FRAMES_PER_SECOND, Recording } from './recording'
import { rowAt } from './forks'
import type { ProfileRow, Registers, Scenario, SpawnRow } from './scenario'
import { sense } from './sense'
import { spawn } from './spawn'
import { steer } from './steer'
import type { StepRow } from './steps/list'
import { World } from './world'

/** Squares in which it is looked for who is near, metres. */
const SQUARE_M = 2

/** Somebody who is or was in a run. */
export interface Member {
  readonly key: number
  /** Spawner and number in it: the same whenever the run is repeated. */
  readonly id: string
  readonly name: string
  readonly spawnerId: string
  readonly profileId: string
  readonly appearedS: number
  leftS: number | undefined
}

/** A scenario under way: what changes, what is remembered of it, and the row of systems that makes the next step. */
export class Engine {
  readonly world = new World()
  readonly recording = new Recording()
  readonly events = new EventLog()
  readonly near = new Neighbours()
  /** Everybody so far, in the order they appeared. */
  members: Member[] = []
  /** The last verdict on those who have left. */
  readonly left = new Map<number, Verdict>()
  t = 0
  readonly stepsPerFrame: number

  constructor(
    public scenario: Scenario,
    readonly registers: Registers,
    readonly seed: number,
  ) {
    this.stepsPerFrame = Math.max(1, Math.round(1 / scenario.stepS / FRAMES_PER_SECOND))
    this.makeRoom()
    // Who is there from the first moment on is in the first frame.
    spawn(this)
    this.recording.take(this.world)
  }

  /** The columns by spawner, for spawners that have come with an edit. */
  makeRoom(): void {
    const { spawners } = this.scenario
    this.world.roomForSpawners(spawners.length, (k) => Math.max(this.t, spawners[k]?.firstAfterS ?? 0))
  }

  /** Goes on by one step; a frame is recorded when one is due. */
  step(): void {
    const { world } = this
    spawn(this)
    this.near.sort(world.count, world.x, world.y, world.key, SQUARE_M)
    sense(this)
    decide(this)
    cross(this)
    steer(this)
    avoid(this)
    move(this)
    world.steps++
    this.t = world.steps * this.scenario.stepS
    measure(this)
    if (world.steps % this.stepsPerFrame === 0) this.recording.take(world)
  }

  runTo(t: number): void {
    while (this.t < t - 1e-9) this.step()
  }

  profileOf(n: number): ProfileRow {
    return this.scenario.profiles[this.world.profile[n]]!
  }

  spawnerOf(n: number): SpawnRow | undefined {
    return this.scenario.spawners[this.world.spawner[n]]
  }

  /** The step of its brief an agent is at; that of a lane it has turned into, where it has. */
  rowOf(n: number): StepRow | undefined {
    const { world, scenario } = this
    return rowAt(scenario, this.registers, this.spawnerOf(n)?.steps[world.step[n]], world.route[n])
  }

  log(n: number, kind: EventKind, a = 0, b = 0, c = 0): void {
    this.events.add(this.world.steps, this.world.key[n], kind, a, b, c, this.world.route[n])
  }

  get hash(): string {
    return this.recording.hash
  }
}
