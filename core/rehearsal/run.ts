import { applyPatch, type Level, type PatchOp } from '@tidytrail/core/level'
import type { ReachMap } from '@tidytrail/core/reach'
import type { Survey } from '@tidytrail/core/survey'
import { adopt } from './adopt'
import { Engine } from './engine'
import { judge, type Verdict } from './judge'
import { compileScenario, freshRegisters } from './scenario'
import { STATE, snapshotBytes, type Snapshot } from './world'

/** Something done to a run while it went on. */
export type Command =
  | { readonly step: number; readonly do: 'edit'; readonly patch: readonly PatchOp[] }
  /** A stand-in is taken: a direction (of length one, or none), and a speed, metres a second. */
  | {
      readonly step: number
      readonly do: 'steer'
      readonly agent: string
      readonly x: number
      readonly y: number
      readonly mps: number
    }
  | { readonly step: number; readonly do: 'noise'; readonly agent: string }
  | { readonly step: number; readonly do: 'let-go'; readonly agent: string }

/** Bytes of snapshots kept; beyond it every second one is forgotten. */
const KEPT_BYTES = 64_000_000
/** A moment that is kept: the world then, and how many events and members there were. */
type Kept = Snapshot & { readonly events: number; readonly members: number }

/** How long a noise lasts, seconds. */
const NOISE_S = 0.8

/**
 * A rehearsal that can be changed while it runs, gone back in, and repeated to the last bit from its level, its seed and
 * what was done to it.
 */
export class Run {
  readonly engine: Engine
  /** What was done, in order. */
  commands: Command[] = []
  private snapshots: Kept[] = []
  private bytes = 0
  private everySteps: number
  private readonly versions = new Map<ReachMap, number>()
  /** Commands that are still to come when the run is a repetition. */
  private script: readonly Command[] = []

  /** @param survey one that is up to date with the level; edits bring it up to date again */
  constructor(
    public level: Level,
    readonly seed: number,
    private readonly survey: Survey,
    script: readonly Command[] = [],
  ) {
    const registers = freshRegisters()
    this.engine = new Engine(compileScenario(level, survey.plannerFor, registers), registers, seed)
    this.everySteps = Math.max(1, Math.round(level.settings.stepsPerSecond / 2))
    this.script = [...script]
    this.noteVersions()
    this.keep()
  }

  get t(): number {
    return this.engine.t
  }

  get step(): number {
    return this.engine.world.steps
  }

  /** Goes on by one step, with whatever is to be done before it. */
  next(): void {
    while (this.script.length > 0 && this.script[0].step <= this.step) {
      const [command, ...rest] = this.script
      this.script = rest
      this.perform(command)
    }
    this.engine.step()
    if (this.step % this.everySteps === 0) this.keep()
  }

  runTo(t: number): void {
    while (this.t < t - 1e-9) this.next()
  }

  /** Does something to the run at its present step. */
  perform(command: Command): void {
    const done = { ...command, step: this.step }
    this.commands.push(done)
    if (done.do === 'edit') {
      const level = applyPatch(this.level, done.patch)
      this.survey.update(level, done.patch)
      this.take(level)
      return
    }
    const { world } = this.engine
    const member = this.engine.members.find((m) => m.id === done.agent && m.leftS === undefined)
    const n = member ? world.slotOf(member.key) : -1
    if (n < 0) return
    if (done.do === 'noise') {
      world.noise[n] = this.t + NOISE_S
      this.engine.log(n, 'noise')
    } else if (done.do === 'steer') {
      if (world.state[n] !== STATE.steered) this.engine.log(n, 'steered')
      world.state[n] = STATE.steered
      world.courses[n] = null
      world.steerX[n] = done.x
      world.steerY[n] = done.y
      world.steerMps[n] = done.mps
    } else if (world.state[n] === STATE.steered) {
      this.engine.log(n, 'let-go')
      // On with its brief from where it is: the same step again.
      world.steerMps[n] = -1
      world.step[n] = Math.max(-1, world.step[n] - 1)
      world.state[n] = STATE.idle
    }
  }

  /** Takes in, at the present step, a level the survey already knows of. */
  takeIn(level: Level, patch: readonly PatchOp[]): void {
    if (patch.length > 0) this.commands.push({ step: this.step, do: 'edit', patch })
    this.take(level)
  }

  /** Takes in a level the survey already knows of. */
  private take(level: Level): void {
    const { engine } = this
    const changed = new Set<ReachMap>()
    const planners = Object.keys(level.profiles).map((id) => this.survey.plannerFor(id)?.map)
    for (const map of planners) if (map && this.versions.get(map) !== map.version) changed.add(map)
    this.level = level
    const next = compileScenario(level, this.survey.plannerFor, engine.registers, engine.scenario)
    adopt(engine, next, (profile) => {
      const row = next.profiles[profile]
      return row !== undefined && changed.has(row.planner.map)
    })
    this.noteVersions()
  }

  private noteVersions(): void {
    this.versions.clear()
    for (const id of Object.keys(this.level.profiles)) {
      const map = this.survey.plannerFor(id)?.map
      if (map) this.versions.set(map, map.version)
    }
  }

  private keep(): void {
    const { world } = this.engine
    if (this.snapshots.at(-1)?.step === world.steps) return
    const snapshot = world.snapshot()
    const { events, members } = this.engine
    this.snapshots.push({ ...snapshot, events: events.list.length, members: members.length })
    this.bytes += snapshotBytes(snapshot)
    if (this.bytes <= KEPT_BYTES || this.snapshots.length < 8) return
    this.snapshots = this.snapshots.filter((_, k) => k % 2 === 0)
    this.bytes = this.snapshots.reduce((sum, s) => sum + snapshotBytes(s), 0)
    this.everySteps *= 2
  }

  /**
   * Goes back to a time, seconds: from the last moment kept before it on again, with the level as it now is. What was
   * recorded after that moment is forgotten.
   */
  backTo(t: number): void {
    const { engine } = this
    const step = Math.round(t / engine.scenario.stepS)
    if (step >= this.step) return
    let k = this.snapshots.length - 1
    while (k > 0 && this.snapshots[k].step > step) k--
    const snapshot = this.snapshots[k]
    this.snapshots.length = k + 1
    this.bytes = this.snapshots.reduce((sum, s) => sum + snapshotBytes(s), 0)
    const again = this.commands.filter((c) => c.step >= snapshot.step && c.step < step)
    // What was done before stays done: edits are in the level already, keys are pressed again at their time.
    this.commands = this.commands.filter((c) => c.step < step)
    const { world, members, events, recording } = engine
    world.restore(snapshot)
    engine.t = world.steps * engine.scenario.stepS
    events.cutTo(snapshot.events)
    engine.members = members.slice(0, snapshot.members)
    for (const m of engine.members) {
      if (m.leftS === undefined || m.leftS < engine.t) continue
      m.leftS = undefined
      engine.left.delete(m.key)
    }
    recording.cutTo(Math.floor(snapshot.step / engine.stepsPerFrame) + 1)
    const keys = again.filter((c) => c.do !== 'edit')
    const kept = this.commands
    while (this.step < step) {
      for (const c of keys) if (c.step === this.step) this.perform(c)
      this.commands = kept
      this.engine.step()
      if (this.step % this.everySteps === 0) this.keep()
    }
  }

  verdicts(): Verdict[] {
    return judge(this.engine)
  }

  get hash(): string {
    return this.engine.hash
  }
}
