/** Distances worked out plainly, to hold the program's own against. */
type Place = readonly number[]

/** Distance over the map from a place to a straight line. */
export function placeToLine(p: Place, a: Place, b: Place): number {
  const along = [b[0] - a[0], b[1] - a[1]]
  const whole = along[0] ** 2 + along[1] ** 2
  const share = whole === 0 ? 0 : ((p[0] - a[0]) * along[0] + (p[1] - a[1]) * along[1]) / whole
  const t = Math.max(0, Math.min(1, share))
  return Math.hypot(p[0] - a[0] - t * along[0], p[1] - a[1] - t * along[1])
}

/** Distance over the map between two straight lines; 0 when they cross. */
export function lineToLine(a: Place, b: Place, c: Place, d: Place): number {
  const side = (p: Place, q: Place, r: Place) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])
  if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return 0
  return Math.min(placeToLine(a, c, d), placeToLine(b, c, d), placeToLine(c, a, b), placeToLine(d, a, b))
}

/** The lines from corner to corner of a closed ring. */
export const sidesOf = (ring: readonly Place[]): [Place, Place][] =>
  ring.map((p, i) => [p, ring[(i + 1) % ring.length]])

/** How near a path comes to any of some lines. */
export function pathToLines(path: readonly Place[], lines: readonly (readonly [Place, Place])[]): number {
  let best = Infinity
  for (let i = 1; i < path.length; i++) {
    for (const [c, d] of lines) best = Math.min(best, lineToLine(path[i - 1], path[i], c, d))
  }
  return best
}
