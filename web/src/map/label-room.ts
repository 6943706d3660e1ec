/** Where names of areas are written so that they do not lie on the symbols of what stands there. */
import type { Level } from '@tidytrail/core/level'
import KDBush from 'kdbush'
import { label, TEXT_FONT, X, Y, type Pen } from './pen'

/** How far a symbol reaches from its place, and half the height of a label, pixels. */
const SYMBOL_PX = 11
const HALF_PX = 8

interface Known {
  readonly read: readonly unknown[]
  readonly index: KDBush
  readonly places: readonly (readonly number[])[]
}
let known: Known | undefined

/** All that is drawn as a symbol at a place of its own. */
function symbolsOf(level: Level): Known {
  const { waypoints, spawners, posts, markers } = level
  const read = [waypoints, spawners, posts, markers]
  if (known && read.every((r, k) => r === known!.read[k])) return known
  const places = read.flatMap((things) => Object.values(things).map((t: { at: readonly number[] }) => t.at))
  const index = new KDBush(places.length)
  for (const [x, y] of places) index.add(x, y)
  known = { read, index: index.finish(), places }
  return known
}

/** Does nothing stand where a label would be written? @param x its middle, pixels of the window */
export function isFreeForLabel(pen: Pen, level: Level, x: number, y: number, wide: number): boolean {
  const { index, places } = symbolsOf(level)
  const { view } = pen
  const mx = view.x + (x - view.width / 2) / view.scale
  const my = view.y - (y - view.height / 2) / view.scale
  const [dx, dy] = [(wide / 2 + SYMBOL_PX) / view.scale, (HALF_PX + SYMBOL_PX) / view.scale]
  return index.range(mx - dx, my - dy, mx + dx, my + dy).every((k) => !places[k])
}

/**
 * Writes the name of an area near its middle, where it covers no symbol and lies wholly within it; nowhere when there
 * is no such place.
 * @param middle where it stands best, metres @param holds is a place in the area?
 */
export function labelArea(
  pen: Pen,
  level: Level,
  text: string,
  middle: readonly [number, number],
  holds: (x: number, y: number) => boolean,
  options: { size?: number } = {},
): void {
  pen.c.font = `400 ${options.size ?? 12}px ${TEXT_FONT}`
  const wide = pen.c.measureText(text).width + 8
  for (const [mx, my] of placesAround(pen, middle, wide, holds)) {
    const [x, y] = [X(pen, mx), Y(pen, my)]
    if (isFreeForLabel(pen, level, x, y, wide)) return label(pen, text, x, y, options)
  }
}

/** Steps from the best place of a label to others, in its heights. */
const STEPS = [0, 1.2, -1.2, 2.4, -2.4, 3.6, -3.6, 5, -5]

/** Places for a label in an area, from one outwards to the north and south, then beside it. */
function* placesAround(
  pen: Pen,
  [x, y]: readonly [number, number],
  wide: number,
  holds: (x: number, y: number) => boolean,
): Generator<[number, number]> {
  const step = (2 * HALF_PX) / pen.view.scale
  const half = wide / 2 / pen.view.scale
  for (const aside of [0, half, -half, 2 * half, -2 * half])
    for (const k of STEPS) {
      const [px, py] = [x + aside, y + k * step]
      // All of it lies within: its ends, and a little above and below.
      const within = [-half, 0, half].every((dx) => holds(px + dx, py + step / 2) && holds(px + dx, py - step / 2))
      if (within || (aside === 0 && k === 0)) yield [px, py]
    }
}
