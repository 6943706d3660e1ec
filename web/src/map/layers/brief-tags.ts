import { areaOf, placeNamed, stepsOf, type BriefStep, type Level } from '@tidytrail/core/level'
import { plainText, X, Y, type Pen } from '../pen'

/** Where a step of a brief happens, as far as the brief alone tells it. */
export function placeOfStep(level: Level, step: BriefStep): readonly number[] | undefined {
  if (step.kind === 'follow-route') {
    const route = level.routes[step.routeId ?? '']
    const first = route && route.stops[route.order[0]]
    return first && level.waypoints[first.waypointId]?.at
  }
  if ('spawnerId' in step) return level.spawners[step.spawnerId ?? '']?.at
  if ('markerId' in step) {
    const { key, id } = placeNamed(step)
    if (key === 'markerId') return level.markers[id ?? '']?.at
    if (key === 'postId') return level.posts[id ?? '']?.at
  }
  const zone = 'zoneId' in step ? level.zones[step.zoneId ?? ''] : undefined
  return zone && areaOf(level, zone)?.middle
}

/** The brief a chosen thing is, or that those it sends are told by. */
const briefOf = (level: Level, id: string | undefined) => {
  const spawner = level.spawners[id ?? '']
  const squad = level.squads[spawner?.squadId ?? id ?? '']
  return level.briefs[id ?? ''] ?? level.briefs[spawner?.briefId ?? squad?.briefId ?? '']
}

/** Small numbered tags where the steps of a brief happen, strung together in their order. @param pointed the line that is pointed at */
export function drawBriefTags(pen: Pen, level: Level, alone: string | undefined, pointed: string | undefined): void {
  const brief = briefOf(level, alone)
  if (!brief) return
  const { c, inks } = pen
  const tags = stepsOf(brief).flatMap((id, k) => {
    const at = placeOfStep(level, brief.steps[id])
    return at ? [{ id, number: k + 1, x: X(pen, at[0]), y: Y(pen, at[1]) }] : []
  })
  if (tags.length === 0) return
  c.strokeStyle = inks.colour.faded
  c.lineWidth = 1
  c.setLineDash([1, 4])
  c.beginPath()
  tags.forEach(({ x, y }, k) => (k === 0 ? c.moveTo(x, y - 22) : c.lineTo(x, y - 22)))
  c.stroke()
  c.setLineDash([])
  const seen = new Map<string, number>()
  for (const { id, number, x, y } of tags) {
    // Several at one place hang side by side.
    const key = `${Math.round(x)} ${Math.round(y)}`
    const beside = seen.get(key) ?? 0
    seen.set(key, beside + 1)
    const left = x - 9 + beside * 20
    const on = id === pointed
    c.strokeStyle = inks.colour.ink
    c.fillStyle = on ? inks.colour.ochre : inks.colour.sheet
    c.lineWidth = 1.3
    c.beginPath()
    c.moveTo(left + 9, y - 6)
    c.lineTo(left + 9, y - 14)
    c.stroke()
    c.beginPath()
    c.moveTo(left, y - 14)
    c.lineTo(left, y - 26)
    c.lineTo(left + 4, y - 31)
    c.lineTo(left + 14, y - 31)
    c.lineTo(left + 18, y - 26)
    c.lineTo(left + 18, y - 14)
    c.closePath()
    c.fill()
    c.stroke()
    plainText(pen, String(number), left + 9, y - 21, on ? inks.colour['on-fill'] : inks.colour.ink, true, 11)
  }
}
