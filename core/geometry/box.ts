import { hypot } from './exact'

/** An upright rectangle on the map, metres. */
export interface Box2 {
  minX: number
  minY: number
  maxX: number
  maxY: number
}

export function boxOf(points: Iterable<readonly number[]>, margin = 0): Box2 {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity }
  for (const [x, y] of points) {
    box.minX = Math.min(box.minX, x)
    box.minY = Math.min(box.minY, y)
    box.maxX = Math.max(box.maxX, x)
    box.maxY = Math.max(box.maxY, y)
  }
  return growBox(box, margin)
}

export function growBox(box: Box2, by: number): Box2 {
  return { minX: box.minX - by, minY: box.minY - by, maxX: box.maxX + by, maxY: box.maxY + by }
}

export function boxesMeet(a: Box2, b: Box2): boolean {
  return a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY
}

export function boxHolds(box: Box2, x: number, y: number): boolean {
  return x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY
}

/** Distance from a place to the nearest point of the box, metres; 0 inside. */
export function distanceToBox(box: Box2, x: number, y: number): number {
  return hypot(Math.max(box.minX - x, 0, x - box.maxX), Math.max(box.minY - y, 0, y - box.maxY))
}

/** The same boxes with those that meet replaced by one around both. */
export function mergeBoxes(boxes: readonly Box2[]): Box2[] {
  const out: Box2[] = []
  for (const box of boxes) {
    let grown = box
    for (let k = 0; k < out.length; k++) {
      if (!boxesMeet(out[k], grown)) continue
      const [other] = out.splice(k, 1)
      grown = {
        minX: Math.min(grown.minX, other.minX),
        minY: Math.min(grown.minY, other.minY),
        maxX: Math.max(grown.maxX, other.maxX),
        maxY: Math.max(grown.maxY, other.maxY),
      }
      k = -1
    }
    out.push(grown)
  }
  return out
}
