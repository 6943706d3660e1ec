import { distanceToBox, distance2, type Box2, type Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import { PathFinder, type PathAnswer, type ReachMap } from '@tidytrail/core/reach'

/** So many ways are kept at most; then all are forgotten. */
const MOST_KEPT = 200_000

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

  constructor(readonly map: ReachMap) {
    this.finder = new PathFinder(map)
  }

  /** The way from one place to another: found over the reach map, or drawn as a straight line. */
  way(from: Point3, to: Point3, legs: Route['legs'] = 'found'): PathAnswer {
    const known = this.kept[legs].get(from)?.get(to)
    if (known) return known.answer
    if (++this.count > MOST_KEPT) this.forget('everywhere')
    const answer = legs === 'drawn' ? this.drawn(from, to) : this.finder.find(from, to)
    let byEnd = this.kept[legs].get(from)
    if (!byEnd) this.kept[legs].set(from, (byEnd = new Map()))
    byEnd.set(to, { from, to, answer })
    return answer
  }

  private drawn(from: Point3, to: Point3): PathAnswer {
    const straight = this.finder.straight(from, to)
    if (straight.clear) return { found: true, line: [from, to], lengthM: distance2(from, to) }
    return { found: false, why: 'apart', stopsAt: straight.at }
  }

  /** Forgets the ways that a change within these boxes may touch. */
  forget(changed: readonly Box2[] | 'everywhere'): void {
    if (changed === 'everywhere') {
      this.kept.found.clear()
      this.kept.drawn.clear()
      this.count = 0
      return
    }
    if (changed.length === 0) return
    for (const byStart of [this.kept.found, this.kept.drawn]) {
      for (const byEnd of byStart.values()) {
        for (const [end, { from, to, answer }] of byEnd) {
          if (answer.found && !anyCouldPass(changed, from, to, answer.lengthM)) continue
          byEnd.delete(end)
          this.count--
        }
      }
    }
  }
}

/** Could a way no longer than a given one lead through a box? It would be at least as long as to the box and on. */
function anyCouldPass(boxes: readonly Box2[], from: Point3, to: Point3, lengthM: number): boolean {
  for (const box of boxes) {
    const near = distanceToBox(box, from[0], from[1])
    if (near <= lengthM && near + distanceToBox(box, to[0], to[1]) <= lengthM + 1e-9) return true
  }
  return false
}
