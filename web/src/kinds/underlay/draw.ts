import { byRank, type Level, type Underlay } from '@tidytrail/core/level'
import { lying } from '../../map/lying'
import type { Pen } from '../../map/pen'

/** Pictures to trace, under everything. */
export function drawUnderlays(pen: Pen, level: Level, pictures: ReadonlyMap<string, ImageBitmap>): void {
  for (const [, u] of byRank(level.underlays)) {
    const picture = pictures.get(u.assetId)
    if (u.hidden || !picture) continue
    lying(pen, u.at, u.turnRad, u.metresPerPixel, () => {
      pen.c.globalAlpha = u.opacity
      pen.c.drawImage(picture, 0, -picture.height)
      pen.c.globalAlpha = 1
    })
  }
}

/** The corners of an underlay on the map; undefined until its picture has come. */
export function underlayRing(u: Underlay, picture: { width: number; height: number }): [number, number][] {
  const [c, s] = [Math.cos(u.turnRad) * u.metresPerPixel, Math.sin(u.turnRad) * u.metresPerPixel]
  return [
    [0, 0],
    [picture.width, 0],
    [picture.width, picture.height],
    [0, picture.height],
  ].map(([x, y]): [number, number] => [u.at[0] + x * c - y * s, u.at[1] + x * s + y * c])
}
