import { exact, type Point3 } from '@tidytrail/core/geometry'
import { canSee } from '@tidytrail/core/ground'
import type { Area } from '@tidytrail/core/level'
import type { ReachMap } from './map'

/** Places looked at in a zone at most, directions looked into from each, and how far, metres. */
const LOOKED_AT = 400
const DIRECTIONS = 24
const SIGHT_M = 30
const STEPS_M = [2, 4, 7, 11, 16, 22, 30]
/** Posts stand so far apart at least, metres. */
const APART_M = 4
/** An edge so near behind is cover, metres. */
const COVER_M = 1.2

/** A place that would do as a post. */
export interface SuggestedPost {
  readonly at: Point3
  readonly facingRad: number
  readonly arcRad: number
  /** How good it is: what it overlooks, and whether its back is covered; the best is 10. */
  readonly worth: number
}

/**
 * Places in an area that would do as posts: from where much can be overlooked and an edge of the reach or a wall covers
 * the back; the best first, none near another, and none that mainly overlooks what one before it does.
 * @param eyeM the height of the eyes @param most how many at most
 */
export function suggestPosts(map: ReachMap, area: Area, eyeM: number, most: number): SuggestedPost[] {
  const { box, holds } = area
  const [width, depth] = [box.maxX - box.minX, box.maxY - box.minY]
  const stepM = Math.max(0.8, Math.sqrt((width * depth) / LOOKED_AT))
  const found: (SuggestedPost & { readonly seen: ReadonlySet<string> })[] = []
  for (let y = box.minY + stepM / 2; y < box.maxY; y += stepM)
    for (let x = box.minX + stepM / 2; x < box.maxX; x += stepM) {
      if (!holds(x, y)) continue
      for (const spot of map.reachedFloors(x, y)) {
        const z = map.zOf(spot)
        if (holds(x, y, z)) found.push(judged(map, [round(x), round(y), z], eyeM))
      }
    }
  const chosen: typeof found = []
  const seen = new Set<string>()
  let left = found
  while (chosen.length < most && left.length > 0) {
    const fresh = (p: (typeof found)[number]) => p.worth * (0.15 + share(p.seen, seen))
    const best = left.reduce((a, b) => (fresh(b) > fresh(a) ? b : a))
    if (share(best.seen, seen) < 0.25 && chosen.length > 0) break
    chosen.push(best)
    for (const s of best.seen) seen.add(s)
    left = left.filter((p) => distance(p.at, best.at) >= APART_M)
  }
  const top = Math.max(1e-9, ...chosen.map((p) => p.worth))
  return chosen.map(({ at, facingRad, arcRad, worth }) => ({
    at,
    facingRad,
    arcRad,
    worth: Math.round((worth / top) * 100) / 10,
  }))
}

const round = (v: number) => Math.round(v * 100) / 100
const distance = (a: Point3, b: Point3) => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2)
/** How much of what one overlooks nobody does yet. */
const share = (own: ReadonlySet<string>, known: ReadonlySet<string>) => {
  let fresh = 0
  for (const s of own) if (!known.has(s)) fresh++
  return own.size === 0 ? 0 : fresh / own.size
}

/** What can be overlooked from a place, in which direction most of it lies, and whether the back is covered. */
function judged(map: ReachMap, at: Point3, eyeM: number) {
  const [x, y, z] = at
  const { terrain } = map.source
  const seen = new Set<string>()
  const reach = new Array<number>(DIRECTIONS).fill(0)
  for (let k = 0; k < DIRECTIONS; k++) {
    const a = (k / DIRECTIONS) * 2 * Math.PI
    const [c, s] = [exact.cos(a), exact.sin(a)]
    for (const m of STEPS_M) {
      const [px, py] = [x + c * m, y + s * m]
      if (!canSee(terrain, x, y, z + eyeM, px, py, z + eyeM * 0.6)) break
      reach[k] = m
      if (map.reachedAt(px, py, z)) seen.add(`${Math.round(px / 3)} ${Math.round(py / 3)}`)
    }
  }
  // The half it faces: where most can be seen over five eighths of a turn about it.
  const half = Math.round(DIRECTIONS / 6)
  let best = -1
  let facing = 0
  for (let k = 0; k < DIRECTIONS; k++) {
    let sum = 0
    for (let d = -half; d <= half; d++) sum += reach[(k + d + DIRECTIONS) % DIRECTIONS]
    if (sum > best + 1e-9) {
      best = sum
      facing = k
    }
  }
  const facingRad = (facing / DIRECTIONS) * 2 * Math.PI
  const behind = [0, -1, 1].filter((d) => {
    const a = facingRad + Math.PI + d * 0.6
    return !map.reachedAt(x + exact.cos(a) * COVER_M, y + exact.sin(a) * COVER_M, z)
  }).length
  const worth = (best / ((2 * half + 1) * SIGHT_M)) * (0.5 + behind / 6) + seen.size / 2000
  const turn = facingRad > Math.PI ? facingRad - 2 * Math.PI : facingRad
  return { at, facingRad: Math.round(turn * 1000) / 1000, arcRad: 2.094, worth, seen }
}
