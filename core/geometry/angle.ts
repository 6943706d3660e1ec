/** The same direction, in radians within (−π, π]. */
export function wrapAngle(rad: number): number {
  const full = 2 * Math.PI
  const wrapped = rad - full * Math.floor((rad + Math.PI) / full)
  return wrapped <= -Math.PI ? wrapped + full : wrapped
}

export const degrees = (rad: number): number => (rad * 180) / Math.PI
export const radians = (deg: number): number => (deg * Math.PI) / 180

/** A direction, radians counterclockwise from east, as a bearing: degrees clockwise from north, from 0 to 360. */
export function bearingOf(rad: number): number {
  const deg = (90 - degrees(rad)) % 360
  return deg < 0 ? deg + 360 : deg
}

/** The direction of a bearing in degrees clockwise from north: radians counterclockwise from east, within half a turn. */
export function fromBearing(deg: number): number {
  const turned = (((90 - deg) % 360) + 360) % 360
  return radians(turned > 180 ? turned - 360 : turned)
}
