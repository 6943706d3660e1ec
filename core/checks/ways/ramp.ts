import { distance2, exact, toMillimetre, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { solidSchema, type Profile } from '@tidytrail/core/level'
import type { Look } from '../check'
import { metres } from '../words'

/** Ramps are no steeper than this, and than so much of what the profile manages. */
const STEEPEST_RAD = (24 * Math.PI) / 180
const SHARE = 0.75
/** Room beside the body on a ramp, metres. */
const MARGIN_M = 0.6
/** Longer ramps are not thought of, metres. */
const LONGEST_M = 25

/** A ramp from a floor up to the edge of a flat top beside it, square to the edge; undefined where there is none to lead to. */
export function rampUp(look: Look, profile: Profile, low: Point3, high: Point3) {
  const riseM = high[2] - low[2]
  const widthM = 2 * profile.radiusM + MARGIN_M
  const runM = riseM / exact.tan(Math.min(STEEPEST_RAD, profile.maxSlopeRad * SHARE))
  if (!(riseM > 0) || !(runM <= LONGEST_M)) return undefined
  const solid = look.ground
    .solidsIn({ minX: high[0], minY: high[1], maxX: high[0], maxY: high[1] })
    .find((s) => s.walkable && s.riseX === 0 && s.riseY === 0 && Math.abs(s.topM - high[2]) < 0.05)
  if (!solid) return undefined
  // The edge of the top that is nearest to where one stands below.
  let best: { at: Point2; out: Point2; m: number } | undefined
  const { ring } = solid
  for (let k = 0; k < ring.length; k++) {
    const [p, q] = [ring[k], ring[(k + 1) % ring.length]]
    const length = distance2(p, q)
    if (length < widthM) continue
    const along: Point2 = [(q[0] - p[0]) / length, (q[1] - p[1]) / length]
    // Rings run anticlockwise, so outside is to the right.
    const out: Point2 = [along[1], -along[0]]
    const t = (low[0] - p[0]) * along[0] + (low[1] - p[1]) * along[1]
    const clamped = Math.min(Math.max(t, widthM / 2), length - widthM / 2)
    const at: Point2 = [p[0] + along[0] * clamped, p[1] + along[1] * clamped]
    if ((low[0] - at[0]) * out[0] + (low[1] - at[1]) * out[1] < 0) continue
    const m = distance2(at, low)
    if (!best || m < best.m) best = { at, out, m }
  }
  if (!best) return undefined
  const { at, out } = best
  const thing = solidSchema.parse({
    shape: 'ramp',
    name: `Ramp to ${solid.name || 'a solid'}`.slice(0, 80),
    at: [toMillimetre(at[0] + (out[0] * runM) / 2), toMillimetre(at[1] + (out[1] * runM) / 2)],
    sizeX: toMillimetre(runM),
    sizeY: toMillimetre(widthM),
    turnRad: exact.atan2(-out[1], -out[0]),
    baseM: low[2],
    heightM: riseM,
    walkable: true,
  })
  return { label: `Lay a ramp of ${metres(runM)} up to it`, thing }
}
