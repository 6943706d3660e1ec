import { exact } from '@tidytrail/core/geometry'
import { terrainOf, Viewpoint, type Terrain } from '@tidytrail/core/ground'
import { eyesOf, factionIdOf, HEAD, stanceOf, standInIdOf, type Level } from '@tidytrail/core/level'
import { FIELD, FRAME_FIELDS, STATES, type Recorded } from '@tidytrail/core/rehearsal'

const CROSSING = STATES.indexOf('crossing')
/** A wall between halves how far something is heard. */
const DAMPED = 0.5
/** How loud somebody is who stands, and the speed at which loudness is 1, metres a second. */
const STANDING = 0.1
const WALK_MPS = 1.4

/** Nobody is louder. */
const LOUDEST = 2.5

/** How loud somebody is at a pace: it is heard so many times as far as a hearer's profile says. Metres a second. */
export const loudnessAt = (mps: number): number => STANDING + (1 - STANDING) * Math.min(LOUDEST, mps / WALK_MPS)

/** Somebody whose eyes and ears count. */
interface Looker {
  readonly key: number
  readonly eyeM: number
  readonly sightM: number
  readonly sightCos: number
  readonly hearsM: number
}

/**
 * Whose eyes count where players are to stay unseen: those of the factions named; where none is, those hostile to the
 * stand-in; where nobody is, everybody but stand-ins.
 */
export function lookerKeys({ agents, level }: Recorded, factionIds: readonly string[]): Set<number> {
  const others = agents.filter((a) => !a.standIn)
  if (factionIds.length > 0)
    return new Set(others.filter((a) => a.factionId !== null && factionIds.includes(a.factionId)).map((a) => a.key))
  const own = factionOfPlayers(level)
  const hostile = others.filter((a) => stanceOf(level.factions, a.factionId, own) === 'hostile')
  return new Set((hostile.length > 0 ? hostile : others).map((a) => a.key))
}

/** The faction of the stand-in; null where there is none. */
export function factionOfPlayers(level: Level): string | null {
  const standIn = level.spawners[standInIdOf(level.spawners) ?? '']
  return standIn ? factionIdOf(level, standIn) : null
}

/** Who looks at what in a recording: by the rule of the rehearsal itself (a wedge, cut by what blocks sight). */
export class Lookers {
  readonly terrain: Terrain
  private readonly by = new Map<number, Looker>()

  constructor(
    readonly recorded: Recorded,
    factionIds: readonly string[] = [],
    keys: ReadonlySet<number> = lookerKeys(recorded, factionIds),
  ) {
    const { level, agents } = recorded
    this.terrain = terrainOf(level)
    for (const { key, profileId } of agents) {
      const profile = level.profiles[profileId]
      if (!keys.has(key) || !profile) continue
      this.by.set(key, {
        key,
        eyeM: eyesOf(profile),
        sightM: profile.sightM,
        sightCos: exact.cos(profile.sightRad / 2),
        hearsM: profile.hearsM,
      })
    }
  }

  get count(): number {
    return this.by.size
  }

  /** The farthest any of them sees or hears somebody of a loudness, metres. */
  farM(loud = 0): number {
    let far = 0
    for (const looker of this.by.values()) far = Math.max(far, looker.sightM, looker.hearsM * loud)
    return far
  }

  /** The looker a row of a frame is of; undefined where it is nobody's whose eyes count, or of one who cannot look now. */
  at(frame: Int32Array, row: number): Looker | undefined {
    return frame[row + FIELD.state] === CROSSING ? undefined : this.by.get(frame[row])
  }

  /** How somebody looks about as it stands in a frame. */
  look(frame: Int32Array, row: number, looker: Looker): Look {
    return new Look(this.terrain, frame, row, looker)
  }
}

/** How somebody looks about from where it stands: what it sees and hears, by the rule of the rehearsal. Metres. */
export class Look {
  readonly x: number
  readonly y: number
  readonly z: number
  private readonly headX: number
  private readonly headY: number
  private from: Viewpoint | undefined

  constructor(
    private readonly terrain: Terrain,
    frame: Int32Array,
    row: number,
    readonly looker: Looker,
  ) {
    this.x = frame[row + FIELD.x] / 1000
    this.y = frame[row + FIELD.y] / 1000
    this.z = frame[row + FIELD.z] / 1000
    const heading = frame[row + FIELD.heading] / 1000
    this.headX = exact.cos(heading)
    this.headY = exact.sin(heading)
  }

  /** Would it see a body of a height at a place if nothing stood in between? */
  facesTo(x: number, y: number, z: number): boolean {
    const { looker } = this
    const dx = x - this.x
    const dy = y - this.y
    const across2 = dx * dx + dy * dy
    if (across2 + (z - this.z) * (z - this.z) > looker.sightM * looker.sightM) return false
    if (across2 < 1e-6) return true
    const ahead = this.headX * dx + this.headY * dy
    const { sightCos } = looker
    // The cosine of the angle against that of the edge, without a root.
    return sightCos >= 0
      ? ahead >= 0 && ahead * ahead >= sightCos * sightCos * across2
      : ahead >= 0 || ahead * ahead <= sightCos * sightCos * across2
  }

  /** Does it see a body of a height that stands at a place? */
  sees(x: number, y: number, z: number, heightM: number): boolean {
    return this.facesTo(x, y, z) && this.clear(x, y, z, heightM)
  }

  /** From what loudness on it hears what is at a place. */
  hearsFrom(x: number, y: number, z: number, heightM: number): number {
    const { hearsM } = this.looker
    if (hearsM <= 0) return Infinity
    const loud = Math.sqrt((x - this.x) ** 2 + (y - this.y) ** 2 + (z - this.z) ** 2) / hearsM
    // Nobody is louder than this: what is farther off is not looked at.
    if (loud > LOUDEST) return Infinity
    return this.clear(x, y, z, heightM) ? loud : loud / DAMPED
  }

  /** Is there nothing between its eye and the head or the middle of a body? */
  clear(x: number, y: number, z: number, heightM: number): boolean {
    const { looker } = this
    const farM = Math.max(looker.sightM, looker.hearsM * LOUDEST)
    this.from ??= new Viewpoint(this.terrain, this.x, this.y, this.z + looker.eyeM, farM)
    return this.from.sees(x, y, z + HEAD * heightM) || this.from.sees(x, y, z + 0.5 * heightM)
  }
}

/** Has somebody not moved or turned from one frame to another? */
export const samePose = (a: Int32Array, p: number, b: Int32Array, q: number): boolean =>
  a[p + FIELD.x] === b[q + FIELD.x] &&
  a[p + FIELD.y] === b[q + FIELD.y] &&
  a[p + FIELD.z] === b[q + FIELD.z] &&
  a[p + FIELD.heading] === b[q + FIELD.heading]

/** What was found for a looker as it stood in a frame, to be used again as long as it stands there. */
interface Known<T> {
  readonly pose: Int32Array
  readonly found: T
}

/** Finds something for every looker of every frame in turn; for who has not moved it is found only once. */
export function* looksOf<T>(
  lookers: Lookers,
  frames: { readonly from: number; readonly to: number; readonly every: number },
  find: (look: Look, key: number) => T,
): Generator<{ k: number; key: number; found: T; again: boolean }> {
  const known = new Map<number, Known<T>>()
  for (let k = frames.from; k < frames.to; k += frames.every) {
    const frame = lookers.recorded.frame(k)
    for (let row = 0; row < frame.length; row += FRAME_FIELDS) {
      const looker = lookers.at(frame, row)
      if (!looker) continue
      const before = known.get(looker.key)
      if (before && samePose(before.pose, 0, frame, row)) {
        yield { k, key: looker.key, found: before.found, again: true }
        continue
      }
      const found = find(lookers.look(frame, row, looker), looker.key)
      known.set(looker.key, { pose: frame.slice(row, row + FIELD.heading + 1), found })
      yield { k, key: looker.key, found, again: false }
    }
  }
}
