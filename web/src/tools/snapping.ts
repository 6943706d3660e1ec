import type { Box2, Point2 } from '@tidytrail/core/geometry'
import { terrainOf } from '@tidytrail/core/ground'
import { COLLECTIONS, pointsIn, rolesIn, type AnyThing, type Level } from '@tidytrail/core/level'

/** What a place has been drawn to. */
export interface Snap {
  readonly at: Point2
  readonly to: 'corner' | 'edge' | 'grid' | 'nothing'
}

/** Kinds of things that lie flat within an outline of their own. */
const OUTLINED = COLLECTIONS.filter((c) => c !== 'solids' && [...rolesIn(c).values()].includes('ring'))

/** The outlines drawn within a box: of solids, and of what lies flat. */
function ringsNear(level: Level, box: Box2): (readonly (readonly number[])[])[] {
  const terrain = terrainOf(level)
  const rings: (readonly (readonly number[])[])[] = terrain.near(box).map((k) => terrain.solids[k].ring)
  for (const collection of OUTLINED)
    for (const thing of Object.values(level[collection]))
      // What has fewer than three corners is told by other things than its outline.
      if (!(thing as AnyThing).hidden && pointsIn(collection, thing).length > 2) rings.push(pointsIn(collection, thing))
  return rings
}

/** Directions in which is looked for edges on both sides. */
const LOOKS = 24

/** The middle between the edges on two opposite sides of a place, where they are nearest to one another. */
export function middleBetween(level: Level, x: number, y: number, withinM: number): Point2 | undefined {
  const rings = ringsNear(level, { minX: x - withinM, minY: y - withinM, maxX: x + withinM, maxY: y + withinM })
  const reach = (dx: number, dy: number): number => {
    let nearest = Infinity
    for (const ring of rings) {
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const ex = ring[i][0] - ring[j][0]
        const ey = ring[i][1] - ring[j][1]
        const cross = dx * ey - dy * ex
        if (Math.abs(cross) < 1e-12) continue
        const ax = ring[j][0] - x
        const ay = ring[j][1] - y
        const m = (ax * ey - ay * ex) / cross
        const share = (ax * dy - ay * dx) / cross
        if (m >= 0 && m < nearest && share >= 0 && share <= 1) nearest = m
      }
    }
    return nearest
  }
  let best: { width: number; at: Point2 } | undefined
  for (let k = 0; k < LOOKS; k++) {
    const dx = Math.cos((Math.PI * k) / LOOKS)
    const dy = Math.sin((Math.PI * k) / LOOKS)
    const [ahead, back] = [reach(dx, dy), reach(-dx, -dy)]
    const width = ahead + back
    if (width > withinM || (best && width >= best.width - 1e-9)) continue
    const by = (ahead - back) / 2
    best = { width, at: [x + dx * by, y + dy * by] }
  }
  return best?.at
}

/** The place drawn to the nearest corner or edge of what is drawn within a distance, else to the grid. */
export function snapPlace(level: Level, x: number, y: number, withinM: number): Snap {
  const box = { minX: x - withinM, minY: y - withinM, maxX: x + withinM, maxY: y + withinM }
  const rings = ringsNear(level, box)
  let corner: { at: Point2; m: number } | undefined
  let edge: { at: Point2; m: number } | undefined
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [ax, ay] = ring[j]
      const [bx, by] = ring[i]
      const atCorner = Math.hypot(bx - x, by - y)
      if (atCorner < withinM && (!corner || atCorner < corner.m)) corner = { at: [bx, by], m: atCorner }
      const dx = bx - ax
      const dy = by - ay
      const length2 = dx * dx + dy * dy
      if (length2 === 0) continue
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2))
      const m = Math.hypot(x - ax - t * dx, y - ay - t * dy)
      if (m < withinM && (!edge || m < edge.m)) edge = { at: [ax + t * dx, ay + t * dy], m }
    }
  }
  if (corner) return { at: corner.at, to: 'corner' }
  if (edge) return { at: edge.at, to: 'edge' }
  const { gridM, snap } = level.settings
  if (!snap) return { at: [x, y], to: 'nothing' }
  return { at: [Math.round(x / gridM) * gridM, Math.round(y / gridM) * gridM], to: 'grid' }
}

/** A place put at a right angle, or half of one, to the side before it; for the first side to the axes of the map. */
export function squared(before: readonly number[] | undefined, from: readonly number[], to: readonly number[]): Point2 {
  const base = before ? Math.atan2(from[1] - before[1], from[0] - before[0]) : 0
  const step = Math.PI / 4
  const angle = base + Math.round((Math.atan2(to[1] - from[1], to[0] - from[0]) - base) / step) * step
  const length = (to[0] - from[0]) * Math.cos(angle) + (to[1] - from[1]) * Math.sin(angle)
  return [from[0] + length * Math.cos(angle), from[1] + length * Math.sin(angle)]
}
