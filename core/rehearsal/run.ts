import { applyPatch, type Level, type PatchOp } from '@tidytrail/core/level'
import type { ReachMap } from '@tidytrail/core/reach'
import type { Survey } from '@tidytrail/core/survey'
import { adopt } from './adopt'
import { Engine } from './engine'
import { judge, type Verdict } from './judge'
import { compileScenario, freshRegisters, type Scenario } from './scenario'
import type { Command } from './script'
import { STATE, snapshotBytes, type Snapshot } from './world'

/** Bytes of snapshots kept; beyond it every second one of the older half is forgotten, so that going back a little stays quick. */
const KEPT_BYTES = 128_000_000
/** A moment that is kept: the world then, how many events and members there were, and what it was a world of. */
interface Kept extends Snapshot {
  readonly events: number
  readonly members: number
  readonly scenario: Scenario
  readonly versions: ReadonlyMap<ReachMap, number>
  /** Follows an edit, and is needed to repeat what came after it. */
  readonly edited: boolean
}

/** So many steps of single agents are run again while somebody waits: about a tenth of a second. */
const AT_ONCE = 20_000

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
  private readonly everySteps: number
  /** The reach maps the run was last on, and which state of each. */
  private versions: ReadonlyMap<ReachMap, number> = new Map()
  /** Commands that are still to come when the run is a repetition. */
  private script: readonly Command[] = []

  /** @param survey one that is up to date with the level; edits bring it up to date again */
  constructor(
    public level: Level,
    readonly seed: number,
    private readonly survey: Survey,
    script: readonly Command[] = [],
    private readonly keptBytes = KEPT_BYTES,
  ) {
    const registers = freshRegisters()
    this.engine = new Engine(compileScenario(level, survey.plannerFor, registers), registers, seed)
    this.everySteps = Math.max(1, Math.round(level.settings.stepsPerSecond / 2))
    this.script = [...script]
    this.versions = this.versionsNow()
    this.keep()
  }

  /** The steps at which moments are kept, to go back to. */
  get keptSteps(): number[] {
    return this.snapshots.map((s) => s.step)
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
      // On with its brief from where it is: to the stop it was making for, or the same step again.
      world.steerMps[n] = -1
      const row = this.engine.rowOf(n)
      if (row?.route && world.toStop[n] >= 0) {
        world.fromStop[n] = -1
        world.state[n] = STATE.blocked
        world.until[n] = this.t
      } else {
        world.step[n] = Math.max(-1, world.step[n] - 1)
        world.state[n] = STATE.idle
      }
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
    this.level = level
    this.adopt(compileScenario(level, this.survey.plannerFor, engine.registers, engine.scenario), this.versions)
    this.keep(true)
  }

  /** Goes on with another scenario. @param since the states of the reach maps agents stand on now */
  private adopt(next: Scenario, since: ReadonlyMap<ReachMap, number>): void {
    adopt(this.engine, next, (profile) => {
      const map = next.profiles[profile]?.planner.map
      return map !== undefined && since.get(map) !== map.version
    })
    this.versions = this.versionsNow()
  }

  private versionsNow(): ReadonlyMap<ReachMap, number> {
    const maps = this.engine.scenario.profiles.flatMap((row) => (row ? [row.planner.map] : []))
    return new Map(maps.map((map) => [map, map.version]))
  }

  private keep(edited = false): void {
    const { world, events, members, scenario } = this.engine
    const last = this.snapshots.at(-1)
    if (last?.step === world.steps) {
      if (!edited) return
      this.snapshots.pop()
    }
    const counts = { events: events.list.length, members: members.length }
    this.snapshots.push({ ...world.snapshot(), ...counts, scenario, versions: this.versions, edited })
    this.bytes += snapshotBytes(this.snapshots.at(-1)!)
    if (this.bytes <= this.keptBytes || this.snapshots.length < 8) return
    const older = this.snapshots.length >> 1
    this.snapshots = this.snapshots.filter((s, k) => s.edited || k >= older || k % 2 === 0)
    this.bytes = sumOf(this.snapshots)
  }

  /**
   * The moment to go back to for something that is to take effect at a time, seconds, without anybody having to wait:
   * that time, or where there are many agents the last moment kept before it, unless a key was pressed in between.
   */
  momentNear(t: number): number {
    const { scenario, world } = this.engine
    const step = Math.round(Math.min(t, this.t) / scenario.stepS)
    const kept = this.snapshots.findLast((s) => s.step <= step)?.step ?? 0
    const pressed = this.commands.some((c) => c.do !== 'edit' && c.step >= kept && c.step < step)
    const exact = pressed || step >= this.step || (step - kept) * world.count <= AT_ONCE
    return (exact ? step : kept) * scenario.stepS
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
    const kept = this.snapshots[k]
    this.snapshots.length = k + 1
    this.bytes = sumOf(this.snapshots)
    const earlier = (c: Command) => c.step < kept.step || (c.step === kept.step && kept.edited)
    const later = this.commands.filter((c) => !earlier(c))
    this.commands = this.commands.filter(earlier)
    this.putBack(kept)
    // The level keeps its later edits: they are taken in here, all at once. Keys are pressed again at their time.
    const patch = later.flatMap((c) => (c.do === 'edit' ? c.patch : []))
    if (patch.length > 0) {
      const now = compileScenario(this.level, this.survey.plannerFor, engine.registers, kept.scenario)
      this.commands.push({ step: this.step, do: 'edit', patch })
      this.adopt(now, kept.versions)
      this.keep(true)
    }
    const keys = later.filter((c) => c.do !== 'edit' && c.step < step)
    while (this.step < step) {
      for (const c of keys) if (c.step === this.step) this.perform(c)
      this.engine.step()
      if (this.step % this.everySteps === 0) this.keep()
    }
  }

  /** Makes everything what it was at a moment that was kept. */
  private putBack(kept: Kept): void {
    const { engine } = this
    const { world, events, recording } = engine
    world.restore(kept)
    engine.scenario = kept.scenario
    this.versions = kept.versions
    engine.t = world.steps * engine.scenario.stepS
    events.cutTo(kept.events)
    engine.members = engine.members.slice(0, kept.members)
    for (const m of engine.members) {
      if (m.leftS === undefined || m.leftS < engine.t) continue
      m.leftS = undefined
      engine.left.delete(m.key)
    }
    recording.cutTo(Math.floor(kept.step / engine.stepsPerFrame) + 1)
  }

  verdicts(): Verdict[] {
    return judge(this.engine)
  }

  get hash(): string {
    return this.engine.hash
  }
}

const sumOf = (snapshots: readonly Snapshot[]) => snapshots.reduce((sum, s) => sum + snapshotBytes(s), 0)
