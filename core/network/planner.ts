import {
  boxesMeet,
  boxOf,
  distanceToBox,
  distance2,
  distance3,
  lengthOf,
  type Box2,
  type Point3,
} from '@tidytrail/core/geometry'
import type { Level, Profile, Route } from '@tidytrail/core/level'
import {
  PathFinder,
  travelTimeS,
  usablePassages,
  type FoundPath,
  type PathAnswer,
  type ReachMap,
  type Spot,
  type UsablePassage,
} from '@tidytrail/core/reach'

/** So many ways are kept at most; then all are forgotten. */
const MOST_KEPT = 200_000
const MOST_LINES = 50_000

/** A drawn leg whose ends are as near as this to those of a passage goes through it, metres. */
const ON_PASSAGE_M = 1

interface Kept {
  readonly from: Point3
  readonly to: Point3
  answer: PathAnswer
}

/**
 * Ways over one reach map, kept until a change could make a difference: a shortest path stays one as long as no change
 * lies near enough to shorten or cut it.
 */
export class LegPlanner {
  private readonly finder: PathFinder
  /** By the very objects the places are: a waypoint that has not moved keeps its own. */
  private readonly kept = { found: new Map<Point3, Map<Point3, Kept>>(), drawn: new Map<Point3, Map<Point3, Kept>>() }
  private count = 0
  /** Ways that are no longer to be relied on. */
  private readonly dropped = new WeakSet<PathAnswer>()
  /** Goes up whenever ways are forgotten: some, and all. */
  private forgotten = { some: 0, all: 0 }
  /** Ways along lines that are drawn other than straight, by the line itself. */
  private readonly keptLines = new Map<readonly Point3[], PathAnswer>()
  /** The passages in use, and what they were worked out from. */
  passages: readonly UsablePassage[] = []
  private netOf: { version: number; passages: Level['passages']; profile: Profile } | undefined
  private speedMps = 1

  constructor(readonly map: ReachMap) {
    this.finder = new PathFinder(map)
  }

  /**
   * Takes the passages a profile can use into its ways.
   * @returns the boxes around those that are new, gone or caught elsewhere, and may change ways
   */
  usePassages(passages: Level['passages'], profileId: string, profile: Profile): Box2[] {
    const { netOf, map } = this
    if (netOf && netOf.version === map.version && netOf.passages === passages && netOf.profile === profile) return []
    this.netOf = { version: map.version, passages, profile }
    const now = usablePassages(map, passages, profileId, profile)
    const speedMps = profile.gaits[profile.gait] ?? Object.values(profile.gaits)[0]
    const words = (p: UsablePassage) => JSON.stringify([p.id, p.kind, p.takesS, p.twoWay, p.from, p.to, speedMps])
    const before = new Set(this.passages.map(words))
    const after = new Set(now.map(words))
    const changed = [
      ...this.passages.filter((p) => !after.has(words(p))),
      ...now.filter((p) => !before.has(words(p))),
    ].map((p) => boxOf([p.from, p.to], 0.01))
    this.passages = now
    this.speedMps = speedMps
    // Spots are tied to tiles, so the net is made anew even when it looks the same.
    this.finder.usePassages(now, speedMps)
    if (changed.length > 0) this.forget(changed)
    return changed
  }

  /** The way from one place to another: found over the reach map, or drawn as a straight line. */
  path(from: Point3, to: Point3, legs: Route['legs'] = 'found'): PathAnswer {
    const known = this.kept[legs].get(from)?.get(to)
    if (known) return known.answer
    if (++this.count > MOST_KEPT) this.forget('everywhere')
    const answer = legs === 'drawn' ? this.drawn(from, to) : this.finder.find(from, to)
    let byEnd = this.kept[legs].get(from)
    if (!byEnd) this.kept[legs].set(from, (byEnd = new Map()))
    byEnd.set(to, { from, to, answer })
    return answer
  }

  /** The way exactly along a line, which is kept by the line itself. */
  along(line: readonly Point3[]): PathAnswer {
    const known = this.keptLines.get(line)
    if (known) return known
    if (this.keptLines.size > MOST_LINES) {
      this.keptLines.clear()
      this.forgotten = { ...this.forgotten, all: this.forgotten.all + 1 }
    }
    let answer: PathAnswer | undefined
    let z = line[0][2]
    for (let i = 1; i < line.length && !answer; i++) {
      // A line bows over the floor between its stops; what is walked is the floor below.
      const piece = this.finder.straight([line[i - 1][0], line[i - 1][1], z], line[i])
      if (!piece.clear) answer = this.through(line[0], line[line.length - 1]) ?? blocked(piece.at)
      z = this.finder.endedAt
    }
    answer ??= { found: true, line, lengthM: lengthOf(line), uses: [] }
    this.keptLines.set(line, answer)
    return answer
  }

  private drawn(from: Point3, to: Point3): PathAnswer {
    const straight = this.finder.straight(from, to)
    if (straight.clear) return { found: true, line: [from, to], lengthM: distance2(from, to), uses: [] }
    return this.through(from, to) ?? blocked(straight.at)
  }

  /** The way through the passage that leads from one place to another, if one does. */
  private through(from: Point3, to: Point3): PathAnswer | undefined {
    const passage = this.passages.find((p) => leads(p, from, to) || (p.twoWay && leads(p, to, from)))
    if (passage) {
      const uses = [{ passageId: passage.id, kind: passage.kind, at: 0, takesS: passage.takesS }]
      return { found: true, line: [from, to], lengthM: distance2(from, to), uses }
    }
    return undefined
  }

  /** Can one get from one floor to another, by walking and through passages? */
  joins(from: Spot, to: Spot): boolean {
    return this.joinsIslands(this.map.islandOf(from), this.map.islandOf(to))
  }

  /** Can one get from one island to another through passages? */
  joinsIslands = (from: number, goal: number): boolean => {
    const { map } = this
    const seen = new Set([from])
    for (const island of seen) {
      if (island === goal) return true
      for (const p of this.passages) {
        if (map.islandOf(p.fromSpot) === island) seen.add(map.islandOf(p.toSpot))
        if (p.twoWay && map.islandOf(p.toSpot) === island) seen.add(map.islandOf(p.fromSpot))
      }
    }
    return false
  }

  /** What a way costs as the finder counts, metres; at least its length. */
  private worthM(answer: FoundPath): number {
    return Math.max(answer.lengthM, travelTimeS(answer, this.speedMps) * this.speedMps)
  }

  /** A mark of what is known now, for `hasKept`. */
  get mark(): { readonly some: number; readonly all: number } {
    return this.forgotten
  }

  /** Are all of some ways, given when there was such a mark, still what would be given today? */
  hasKept(mark: LegPlanner['mark'], ways: readonly PathAnswer[]): boolean {
    if (mark === this.forgotten) return true
    return mark.all === this.forgotten.all && !ways.some((way) => this.dropped.has(way))
  }

  /** Forgets the ways that a change within these boxes may touch. */
  forget(changed: readonly Box2[] | 'everywhere'): void {
    const { some, all } = this.forgotten
    if (changed === 'everywhere') {
      this.forgotten = { some, all: all + 1 }
      this.kept.found.clear()
      this.kept.drawn.clear()
      this.keptLines.clear()
      this.count = 0
      return
    }
    if (changed.length === 0) return
    this.forgotten = { some: some + 1, all }
    for (const [line, answer] of this.keptLines) {
      const box = boxOf(line, 1)
      if (!changed.some((b) => boxesMeet(b, box))) continue
      this.keptLines.delete(line)
      this.dropped.add(answer)
    }
    // A passage quicker than the straight line beats the bound below: then no way is safe.
    const quick = this.passages.some((p) => p.takesS * this.speedMps < distance2(p.from, p.to))
    for (const byStart of [this.kept.found, this.kept.drawn]) {
      for (const byEnd of byStart.values()) {
        for (const [end, { from, to, answer }] of byEnd) {
          if (answer.found && !quick && !anyCouldPass(changed, from, to, this.worthM(answer))) continue
          byEnd.delete(end)
          this.dropped.add(answer)
          this.count--
        }
      }
    }
  }
}

const blocked = (stopsAt: Point3): PathAnswer => ({ found: false, why: 'apart', stopsAt })

/** Does a drawn leg between two places stand for a passage? */
function leads(passage: UsablePassage, from: Point3, to: Point3): boolean {
  return distance3(passage.from, from) <= ON_PASSAGE_M && distance3(passage.to, to) <= ON_PASSAGE_M
}

/** Could a way no longer than a given one lead through a box? It would be at least as long as to the box and on. */
function anyCouldPass(boxes: readonly Box2[], from: Point3, to: Point3, lengthM: number): boolean {
  for (const box of boxes) {
    const near = distanceToBox(box, from[0], from[1])
    if (near <= lengthM && near + distanceToBox(box, to[0], to[1]) <= lengthM + 1e-9) return true
  }
  return false
}
