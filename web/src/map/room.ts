/** Where on the window the map has most room, beside the panels that lie over it. */
export interface Frame {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/**
 * The part of a window without panels in which something so much wider than high is shown largest: window pixels from
 * the left and top edge. Of two as good the one nearer to the middle; all of the window when panels leave nothing.
 */
export function roomiest(width: number, height: number, panels: readonly Frame[], aspect: number): Frame {
  const edges = (length: number, ends: readonly number[]) =>
    [...new Set([0, length, ...ends.filter((e) => e > 0 && e < length)])].sort((a, b) => a - b)
  const xs = edges(
    width,
    panels.flatMap((p) => [p.left, p.right]),
  )
  const ys = edges(
    height,
    panels.flatMap((p) => [p.top, p.bottom]),
  )
  let best: Frame = { left: 0, top: 0, right: width, bottom: height }
  let most = 0
  let nearest = Infinity
  for (const left of xs)
    for (const right of xs)
      for (const top of ys)
        for (const bottom of ys) {
          const size = Math.min(right - left, (bottom - top) * aspect)
          if (size <= 0 || size < most) continue
          const off = Math.abs(left + right - width) + Math.abs(top + bottom - height)
          if (size === most && off >= nearest) continue
          if (panels.some((p) => p.left < right && p.right > left && p.top < bottom && p.bottom > top)) continue
          best = { left, top, right, bottom }
          most = size
          nearest = off
        }
  return best
}
