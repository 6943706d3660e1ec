/** The same direction, in radians within (−π, π]. */
export function wrapAngle(rad: number): number {
  const full = 2 * Math.PI
  const wrapped = rad - full * Math.floor((rad + Math.PI) / full)
  return wrapped <= -Math.PI ? wrapped + full : wrapped
}

export const degrees = (rad: number): number => (rad * 180) / Math.PI
export const radians = (deg: number): number => (deg * Math.PI) / 180
