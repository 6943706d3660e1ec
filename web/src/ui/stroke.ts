/** A stroke of a small drawing, in inks by their names: for legends and registers. */
export interface Stroke {
  readonly d: string
  readonly ink: string
  readonly width?: number
  readonly dash?: string
  /** The ink it is filled with. */
  readonly fill?: string
  readonly opacity?: number
}

const ring = (x: number, y: number, r: number) =>
  `M${x + r} ${y}a${r} ${r} 0 1 1 ${-2 * r} 0 ${r} ${r} 0 0 1 ${2 * r} 0`

/** A circle as the path of a stroke. */
export const circle = (x: number, y: number, r: number): string => ring(x, y, r)
