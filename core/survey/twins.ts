import type { Level } from '@tidytrail/core/level'
import { distance3 } from '@tidytrail/core/geometry'

/** Waypoints this near to one another are at the same place, metres. */
const TWINS_WITHIN_M = 0.1

type Waypoints = Level['waypoints']

/** Finds waypoints at the same place, step by step as they move, by the squares of a grid they lie in. */
export class Twins {
  private before: Waypoints = {}
  private readonly squares = new Map<string, Set<string>>()
  private twins = new Map<string, readonly string[]>()

  /** The other waypoints at the place of each that has any; the same map while nothing about that changed. */
  update(waypoints: Waypoints, moved: readonly string[] | undefined): ReadonlyMap<string, readonly string[]> {
    const ids = moved ?? [...new Set([...Object.keys(this.before), ...Object.keys(waypoints)])]
    const changed = ids.filter((id) => this.before[id]?.at !== waypoints[id]?.at)
    const again = new Set<string>()
    for (const id of changed) {
      for (const other of this.twins.get(id) ?? []) again.add(other)
      again.add(id)
      const old = this.before[id]
      if (old) this.squares.get(square(old.at, 0, 0))?.delete(id)
      const now = waypoints[id]
      if (!now) continue
      const key = square(now.at, 0, 0)
      const held = this.squares.get(key)
      if (held) held.add(id)
      else this.squares.set(key, new Set([id]))
    }
    this.before = waypoints
    for (const id of changed) for (const other of this.near(id)) again.add(other)
    let next: Map<string, readonly string[]> | undefined
    for (const id of again) {
      const found = this.near(id)
      if (found.join() === (this.twins.get(id) ?? []).join()) continue
      next ??= new Map(this.twins)
      if (found.length > 0) next.set(id, found)
      else next.delete(id)
    }
    return (this.twins = next ?? this.twins)
  }

  private near(id: string): string[] {
    const own = this.before[id]
    if (!own) return []
    const found: string[] = []
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++)
        for (const other of this.squares.get(square(own.at, i, j)) ?? [])
          if (other !== id && distance3(own.at, this.before[other].at) <= TWINS_WITHIN_M) found.push(other)
    return found.sort()
  }
}

const square = ([x, y]: readonly number[], i: number, j: number) =>
  `${Math.floor(x / TWINS_WITHIN_M) + i} ${Math.floor(y / TWINS_WITHIN_M) + j}`
