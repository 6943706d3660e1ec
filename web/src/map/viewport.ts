import type { Box2 } from '@tidytrail/core/geometry'
import { reactive } from 'vue'

/** Where the map looks: the level place in the middle of the window, and pixels a metre. North is up. */
export interface Viewport {
  x: number
  y: number
  scale: number
  width: number
  height: number
}

export const MIN_SCALE = 0.05
export const MAX_SCALE = 400

export const makeViewport = (): Viewport => reactive({ x: 0, y: 0, scale: 4, width: 1, height: 1 })

export const toScreenX = (v: Viewport, x: number) => v.width / 2 + (x - v.x) * v.scale
export const toScreenY = (v: Viewport, y: number) => v.height / 2 - (y - v.y) * v.scale
export const toLevelX = (v: Viewport, sx: number) => v.x + (sx - v.width / 2) / v.scale
export const toLevelY = (v: Viewport, sy: number) => v.y - (sy - v.height / 2) / v.scale

/** Zooms so that the place under the pointer stays under it. */
export function zoomAt(v: Viewport, sx: number, sy: number, factor: number): void {
  const x = toLevelX(v, sx)
  const y = toLevelY(v, sy)
  v.scale = Math.min(MAX_SCALE, Math.max(MIN_SCALE, v.scale * factor))
  v.x = x - (sx - v.width / 2) / v.scale
  v.y = y + (sy - v.height / 2) / v.scale
}

/** Shows a box whole, within what the panels leave free. @param free inner edges of the free part, pixels */
export function fit(v: Viewport, box: Box2, free: { left: number; top: number; right: number; bottom: number }): void {
  const width = Math.max(80, v.width - free.left - free.right)
  const height = Math.max(80, v.height - free.top - free.bottom)
  const w = Math.max(1, box.maxX - box.minX)
  const h = Math.max(1, box.maxY - box.minY)
  v.scale = Math.min(MAX_SCALE, Math.max(MIN_SCALE, Math.min(width / w, height / h)))
  v.x = (box.minX + box.maxX) / 2 + (v.width / 2 - (free.left + width / 2)) / v.scale
  v.y = (box.minY + box.maxY) / 2 - (v.height / 2 - (free.top + height / 2)) / v.scale
}

/** What is seen, metres. */
export function seenBox(v: Viewport, marginPx = 0): Box2 {
  return {
    minX: toLevelX(v, -marginPx),
    minY: toLevelY(v, v.height + marginPx),
    maxX: toLevelX(v, v.width + marginPx),
    maxY: toLevelY(v, -marginPx),
  }
}

/** A round length for a scale bar or grid, at least so many metres: 1, 2 or 5 times a power of ten. */
export function roundLength(atLeast: number): number {
  const power = 10 ** Math.floor(Math.log10(atLeast))
  return [1, 2, 5, 10].map((k) => k * power).find((l) => l >= atLeast * (1 - 1e-9))!
}
