import { distanceToBox, distance2, type Box2, type Point3 } from '@tidytrail/core/geometry'
import type { Route } from '@tidytrail/core/level'
import { PathFinder, type PathAnswer, type ReachMap } from '@tidytrail/core/reach'

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
  private readonly kept = new Map<string, Kept>()

  constructor(readonly map: ReachMap) {
    this.finder = new PathFinder(map)
  }

  /** The way from one place to another: found over the reach map, or drawn as a straight line. */
  way(from: Point3, to: Point3, legs: Route['legs'] = 'found'): PathAnswer {
    const key = `${legs === 'drawn' ? 'd' : 'f'}${from[0]},${from[1]},${from[2]},${to[0]},${to[1]},${to[2]}`
    let kept = this.kept.get(key)
    if (!kept) {
      if (this.kept.size > 200_000) this.kept.clear()
      kept = { from, to, answer: legs === 'drawn' ? this.drawn(from, to) : this.finder.find(from, to) }
      this.kept.set(key, kept)
    }
    return kept.answer
  }

  private drawn(from: Point3, to: Point3): PathAnswer {
    const straight = this.finder.straight(from, to)
    if (straight.clear) return { found: true, line: [from, to], lengthM: distance2(from, to) }
    return { found: false, why: 'apart', stopsAt: straight.at }
  }

  /** Forgets the ways that a change within these boxes may touch. */
  forget(changed: readonly Box2[] | 'everywhere'): void {
    if (changed === 'everywhere') {
      this.kept.clear()
      return
    }
    if (changed.length === 0) return
    for (const [key, { from, to, answer }] of this.kept) {
      // A way through the box is at least this long; should that be no shorter, the box does not matter.
      const through = (b: Box2) => distanceToBox(b, from[0], from[1]) + distanceToBox(b, to[0], to[1])
      if (!answer.found || changed.some((b) => through(b) <= answer.lengthM + 1e-9)) this.kept.delete(key)
    }
  }
}
