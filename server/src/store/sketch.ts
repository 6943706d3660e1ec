import type { LevelSketch } from '@tidytrail/contract'
import { footprint, heightAt, heightField } from '@tidytrail/core/ground'
import type { Level, Route } from '@tidytrail/core/level'

const COLUMNS = 28
const MOST_SOLIDS = 400
const MOST_ROUTES = 120
const MOST_STOPS = 60

const tenth = (v: number) => Math.round(v * 10) / 10

/** What the shelf needs to draw a small map of a level. */
export function sketchOf(level: Level): LevelSketch {
  const { extent, waterLevelM } = level.settings
  const heights: number[][] = []
  if (level.ground.heights) {
    const field = heightField(level.ground)
    const step = (extent.maxX - extent.minX) / COLUMNS
    const rows = Math.max(2, Math.round((extent.maxY - extent.minY) / step))
    for (let j = 0; j <= rows; j++) {
      const row: number[] = []
      for (let i = 0; i <= COLUMNS; i++) {
        row.push(
          Math.round(
            heightAt(field, extent.minX + i * step, extent.minY + (j * (extent.maxY - extent.minY)) / rows) * 10,
          ) / 10,
        )
      }
      heights.push(row)
    }
  }
  return {
    extent,
    waterLevelM,
    heights,
    solids: Object.values(level.solids)
      .slice(0, MOST_SOLIDS)
      .map((solid) => footprint(solid).map(([x, y]): [number, number] => [tenth(x), tenth(y)])),
    routes: Object.values(level.routes)
      .flatMap((route) => linesOf(level, route))
      .slice(0, MOST_ROUTES),
  }
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
