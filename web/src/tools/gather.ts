import { ringHolds, type Point2 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { traceLine, type Pen } from '../map/pen'
import type { MapPointer } from './tool'

/** A box or a loop that is drawn round things to choose them. */
export class Gathering {
  private readonly loop: Point2[] = []
  private last: Point2

  constructor(
    readonly how: 'box' | 'loop',
    private readonly start: MapPointer,
  ) {
    this.last = [start.x, start.y]
    this.loop.push(this.last)
  }

  move(p: MapPointer): void {
    this.last = [p.x, p.y]
    if (this.how === 'loop') this.loop.push(this.last)
  }

  ring(): Point2[] {
    if (this.how === 'loop') return this.loop
    const [ax, ay] = [this.start.x, this.start.y]
    const [bx, by] = this.last
    return [
      [ax, ay],
      [bx, ay],
      [bx, by],
      [ax, by],
    ]
  }

  draw(pen: Pen): void {
    const { c, inks } = pen
    const ring = this.ring()
    c.strokeStyle = inks.colour.plum
    c.lineWidth = 1.5
    c.setLineDash([5, 4])
    c.beginPath()
    traceLine(pen, ring, true)
    c.stroke()
    c.globalAlpha = 0.08
    c.fillStyle = inks.colour.plum
    c.fill()
    c.globalAlpha = 1
    c.setLineDash([])
  }
}

export interface Gathered {
  readonly stage: string
  readonly routes: boolean
  readonly spawners: boolean
}

/** The things that lie within a ring: stops and loose waypoints, spawners, posts, markers; on the ground solids too. */
export function thingsWithin(level: Level, ring: readonly Point2[], shown: Gathered): string[] {
  const holds = (at: readonly number[]) => ringHolds(ring, at[0], at[1])
  const ids: string[] = []
  const used = new Set<string>()
  for (const route of Object.values(level.routes)) {
    for (const stopId of route.order) {
      const { waypointId } = route.stops[stopId]
      used.add(waypointId)
      if (shown.routes && !route.hidden && !route.locked && holds(level.waypoints[waypointId].at)) ids.push(stopId)
    }
  }
  if (shown.routes)
    for (const [id, w] of Object.entries(level.waypoints)) if (!used.has(id) && holds(w.at)) ids.push(id)
  const places = [shown.spawners ? level.spawners : {}, level.posts, level.markers]
  for (const list of places) {
    for (const [id, t] of Object.entries(list)) if (!t.hidden && !t.locked && holds(t.at)) ids.push(id)
  }
  if (shown.stage === 'ground') {
    for (const [id, s] of Object.entries(level.solids)) {
      const at = s.shape === 'prism' ? s.ring[0] : s.at
      if (!s.hidden && !s.locked && holds(at)) ids.push(id)
    }
  }
  return ids
}
