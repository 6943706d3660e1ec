import { stanceOf, type Level, type Stance } from '@tidytrail/core/level'
import { avoid } from './avoid'
import { cross } from './cross'
import { decide } from './decide'
import { EventLog, type EventKind } from './events'
import type { Verdict } from './judge'
import { interrupt } from './interrupt'
import { measure } from './measure'
import { move } from './move'
import { Neighbours } from './neighbours'
import { FRAMES_PER_SECOND, Recording } from './recording'
import { rowAt } from './forks'
import type { ProfileRow, Registers, Scenario, SpawnRow, Variant } from './scenario'
import { sense } from './sense'
import { spawn } from './spawn'
import { steer } from './steer'
import { drive } from './traffic/drive'
import { Order } from './traffic/order'
import { stepAt, stepsWithin, type StepRow } from './steps/list'
import { World } from './world'

/** Squares in which it is looked for who is near, metres. */
const SQUARE_M = 2

const NOBODY: readonly (readonly [number, boolean])[] = []

/** Somebody who is or was in a run. */
export interface Member {
  readonly key: number
  /** Spawner and number in it: the same whenever the run is repeated. */
  readonly id: string
  readonly name: string
  readonly spawnerId: string
  readonly profileId: string
  /** Which of those its spawner sends it is. */
  readonly variant: number
  readonly appearedS: number
  leftS: number | undefined
}

/** A scenario under way: what changes, what is remembered of it, and the row of systems that makes the next step. */
export class Engine {
  readonly world = new World()
  readonly recording = new Recording()
  readonly events = new EventLog()
  readonly near = new Neighbours()
  /** Those who are not carried along lanes, for those who are. */
  readonly beside = new Neighbours()
  readonly order = new Order()
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
    this.world.roomForSpawners(Math.max(spawners.length, this.registers.spawners.ids.length))
  }

  /** Goes on by one step; a frame is recorded when one is due. */
  step(): void {
    const { world } = this
    spawn(this)
    this.near.sort(world.count, world.x, world.y, world.key, SQUARE_M)
    sense(this)
    interrupt(this)
    decide(this)
    cross(this)
    steer(this)
    drive(this)
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

  /** What an agent is told, and whose side it is on. */
  toldOf(n: number): Variant | undefined {
    const { variants } = this.spawnerOf(n) ?? { variants: [] }
    return variants[this.world.variant[n]] ?? variants[0]
  }

  /** The steps it is working through: those of its brief, or of the standing sentence that interrupted them. */
  stepsNow(n: number): readonly StepRow[] {
    return stepsWithin(this.toldOf(n), this.world.within[n])
  }

  /** The step of its brief an agent is at, which of several it is; that of a lane it has turned into, where it has. */
  rowOf(n: number): StepRow | undefined {
    const { world, scenario } = this
    const row = stepAt(this.toldOf(n), world.within[n], world.step[n], world.choice[n])
    return rowAt(scenario, this.registers, row, world.route[n])
  }

  private stances: { of: Level['factions']; known: Map<string, Map<string, Stance>> } | undefined

  /** How two agents stand to each other. */
  stance(n: number, m: number): Stance {
    const { factions } = this.scenario.level
    if (this.stances?.of !== factions) this.stances = { of: factions, known: new Map() }
    const a = this.toldOf(n)?.faction ?? ''
    const b = this.toldOf(m)?.faction ?? ''
    let from = this.stances.known.get(a)
    if (!from) this.stances.known.set(a, (from = new Map()))
    let stance = from.get(b)
    if (!stance) from.set(b, (stance = stanceOf(factions, a || null, b || null)))
    return stance
  }

  /** Are those of a faction to keep out of where a place is? */
  keepsOut(faction: string | null, x: number, y: number, z: number): boolean {
    return this.scenario.keptOut.some(
      ({ area, factionIds }) =>
        (factionIds.length === 0 || (faction !== null && factionIds.includes(faction))) && area.holds(x, y, z),
    )
  }

  private slots: { step: number; byKey: ReadonlyMap<number, number> } | undefined

  /** The slot of a key, looked up at once; −1 when nobody has it any more. */
  slotOf(key: number): number {
    const { world } = this
    if (key === 0) return -1
    if (this.slots?.step !== world.steps || this.slots.byKey.size === 0) {
      const byKey = new Map<number, number>()
      for (let n = 0; n < world.count; n++) if (world.key[n] !== 0) byKey.set(world.key[n], n)
      this.slots = { step: world.steps, byKey }
    }
    const n = this.slots.byKey.get(key)
    if (n !== undefined && world.key[n] === key) return n
    return world.slotOf(key)
  }

  private perceived:
    { from: World['senses']; by: ReadonlyMap<number, readonly (readonly [number, boolean])[]> } | undefined

  /** The slots of those an agent perceives now, and whether by ear. */
  perceivedBy(n: number): readonly (readonly [number, boolean])[] {
    const { world } = this
    if (this.perceived?.from !== world.senses) {
      const by = new Map<number, [number, boolean][]>()
      for (const [a, b] of world.senses) {
        const list = by.get(a >> 1)
        if (list) list.push([b, (a & 1) === 1])
        else by.set(a >> 1, [[b, (a & 1) === 1]])
      }
      this.perceived = { from: world.senses, by }
    }
    const keys = this.perceived.by.get(world.key[n])
    if (!keys) return NOBODY
    return keys.flatMap(([key, byEar]) => {
      const m = this.slotOf(key)
      return m < 0 ? [] : [[m, byEar] as const]
    })
  }

  /** Gives a signal. */
  give(signal: number): void {
    const given = [...this.world.signals]
    while (given.length <= signal) given.push(-1)
    given[signal] = this.t
    this.world.signals = given
  }

  /** Has a signal been given at a time or after it? */
  givenSince(signal: number, s: number): boolean {
    return signal >= 0 && (this.world.signals[signal] ?? -1) >= Math.max(0, s)
  }

  /** Notes where somebody is whom an agent perceives. */
  remember(n: number, m: number): void {
    const { world } = this
    world.seenX[n] = world.x[m]
    world.seenY[n] = world.y[m]
    world.seenZ[n] = world.z[m]
    world.seenAt[n] = this.t
  }

  log(n: number, kind: EventKind, a = 0, b = 0, c = 0): void {
    this.events.add(this.world.steps, this.world.key[n], kind, a, b, c, this.world.route[n])
  }

  get hash(): string {
    return this.recording.hash
  }
}
