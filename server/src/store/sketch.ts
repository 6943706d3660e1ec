import type { LevelSketch } from '@tidytrail/contract'
import { footprint, heightAt, heightField } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'

const COLUMNS = 28
const MOST_SOLIDS = 400
const MOST_ROUTES = 120
const MOST_STOPS = 60

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
  const tenth = (v: number) => Math.round(v * 10) / 10
  return {
    extent,
    waterLevelM,
    heights,
    solids: Object.values(level.solids)
      .slice(0, MOST_SOLIDS)
      .map((solid) => footprint(solid).map(([x, y]): [number, number] => [tenth(x), tenth(y)])),
    routes: Object.values(level.routes)
      .slice(0, MOST_ROUTES)
      .map((route) => ({
        kind: route.kind,
        closed: route.travel === 'round',
        line: route.order.slice(0, MOST_STOPS).map((id): [number, number] => {
          const [x, y] = level.waypoints[route.stops[id].waypointId].at
          return [tenth(x), tenth(y)]
        }),
      })),
  }
}
