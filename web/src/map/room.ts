/** Where on the window the map has most room, beside the panels that lie over it. */
export interface Frame {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/**
 * The part of a window without panels in which something so much wider than high is shown largest: window pixels from
 * the left and top edge. Of those about as good the one nearest to the middle; all of the window when panels leave
 * nothing.
 */
export function roomiest(width: number, height: number, panels: readonly Frame[], aspect: number): Frame {
  const all: Frame = { left: 0, top: 0, right: width, bottom: height }
  const free = freeFrames(width, height, panels).map((frame) => {
    const w = frame.right - frame.left
    const h = frame.bottom - frame.top
    return {
      frame,
      size: Math.min(w, h * aspect),
      off: Math.abs(frame.left + frame.right - width) + Math.abs(frame.top + frame.bottom - height),
    }
  })
  const most = Math.max(0, ...free.map(({ size }) => size))
  const good = free.filter(({ size }) => size > 0 && size >= ABOUT * most)
  return good.sort((a, b) => a.off - b.off || b.size - a.size)[0]?.frame ?? all
}

/** So large a share of the largest is about as good. */
const ABOUT = 0.94

/** All frames without panels in them between the edges of panels and of the window. */
function freeFrames(width: number, height: number, panels: readonly Frame[]): Frame[] {
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
  const frames: Frame[] = []
  for (const left of xs)
    for (const right of xs)
      for (const top of ys)
        for (const bottom of ys) {
          if (right <= left || bottom <= top) continue
          if (panels.some((p) => p.left < right && p.right > left && p.top < bottom && p.bottom > top)) continue
          frames.push({ left, top, right, bottom })
        }
  return frames
}
