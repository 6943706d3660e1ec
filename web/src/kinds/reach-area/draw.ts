import type { Level, ReachArea } from '@tidytrail/core/level'
import { label, traceLine, X, Y, type Pen } from '../../map/pen'

/** Reach areas: an outline of dashes and dots, with who may be there. */
export function drawAreas(pen: Pen, level: Level, strong: boolean): void {
  const { c, inks } = pen
  for (const area of Object.values(level.reachAreas)) {
    if (area.hidden) continue
    c.strokeStyle = inks.colour.pine
    c.globalAlpha = strong ? 1 : 0.5
    c.lineWidth = strong ? 2 : 1.3
    c.setLineDash([10, 4, 2, 4])
    c.beginPath()
    traceLine(pen, area.ring, true)
    c.stroke()
    c.setLineDash([])
    c.globalAlpha = 1
    if (strong) label(pen, areaWords(level, area), ...labelAt(pen, area.ring), { size: 11 })
  }
}

const labelAt = (pen: Pen, ring: ReachArea['ring']): [number, number] => {
  const top = ring.reduce((a, b) => (b[1] > a[1] ? b : a))
  return [X(pen, top[0]), Y(pen, top[1]) + 12]
}

const areaWords = (level: Level, area: ReachArea) => {
  const who = area.profileIds.map((id) => level.profiles[id]?.name).filter(Boolean)
  return `${area.name || 'Area'}: ${who.length > 0 ? who.join(', ') : 'nobody'}`
}
