import type { LevelSketch } from '@tidytrail/contract'
import { footprint, heightAt, heightField } from '@tidytrail/core/ground'
import type { Level, Route } from '@tidytrail/core/level'

/** Steps of the grid of heights along the longer side of a sheet. */
const COLUMNS = 28
const MOST_CORNERS = 40
const MOST_SOLIDS = 400
const MOST_ROUTES = 120
const MOST_STOPS = 60

const tenth = (v: number) => Math.round(v * 10) / 10

/** What the shelf needs to draw a small map of a level. */
export function sketchOf(level: Level): LevelSketch {
  const { extent, waterLevelM } = level.settings
  const heights: number[][] = []
  const width = extent.maxX - extent.minX
  const depth = extent.maxY - extent.minY
  if (level.ground.heights) {
    const field = heightField(level.ground)
    // However long and narrow a sheet is, neither side gets more steps than the longer one.
    const steps = (side: number) => Math.max(2, Math.round((COLUMNS * side) / Math.max(width, depth)))
    const columns = steps(width)
    const rows = steps(depth)
    for (let j = 0; j <= rows; j++) {
      const row: number[] = []
      for (let i = 0; i <= columns; i++)
        row.push(tenth(heightAt(field, extent.minX + (i * width) / columns, extent.minY + (j * depth) / rows)))
      heights.push(row)
    }
  }
  return {
    extent,
    waterLevelM,
    heights,
    solids: Object.values(level.solids)
      .slice(0, MOST_SOLIDS)
      .map((solid) => few(footprint(solid)).map(([x, y]): [number, number] => [tenth(x), tenth(y)])),
    routes: Object.values(level.routes)
      .flatMap((route) => linesOf(level, route))
      .slice(0, MOST_ROUTES),
  }
}

/** Of the corners of a ring, so many that its shape can be told. */
function few<P>(ring: readonly P[]): readonly P[] {
  const step = Math.ceil(ring.length / MOST_CORNERS)
  return step <= 1 ? ring : ring.filter((_, i) => i % step === 0)
}

/** The lines a route is drawn with in small: from stop to stop, or for a network each link. */
function linesOf(level: Level, route: Route): LevelSketch['routes'] {
  const place = (waypointId: string): [number, number] => {
    const [x, y] = level.waypoints[waypointId].at
    return [tenth(x), tenth(y)]
  }
  const { kind } = route
  if (kind === 'network') {
    return route.linkIds
      .slice(0, MOST_ROUTES)
      .map((id) => ({ kind, closed: false, line: [place(level.links[id].fromId), place(level.links[id].toId)] }))
  }
  const line = route.order.slice(0, MOST_STOPS).map((id) => place(route.stops[id].waypointId))
  return [{ kind, closed: route.travel === 'round', line }]
}
