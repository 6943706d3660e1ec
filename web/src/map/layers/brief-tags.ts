import {
  areaOf,
  filledStep,
  placeNamed,
  stepsOf,
  type BriefStep,
  type BriefWhen,
  type Level,
} from '@tidytrail/core/level'
import { plainText, X, Y, type Pen } from '../pen'

/** Where a step of a brief happens, as far as the brief tells it. @param squadZone the zone of those who are told, meant where a step names none */
export function placeOfStep(level: Level, step: BriefStep, squadZone?: string | null): readonly number[] | undefined {
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
  return 'zoneId' in step ? middleOf(level, step.zoneId ?? squadZone ?? null) : undefined
}
const middleOf = (level: Level, zoneId: string | null) => {
  const zone = level.zones[zoneId ?? '']
  return zone && areaOf(level, zone)?.middle
}

/** Where what makes a standing sentence true happens, when it is one place. */
const placeOfWhen = (level: Level, when: BriefWhen): readonly number[] | undefined =>
  when.kind === 'zone-entered'
    ? middleOf(level, when.zoneId)
    : when.kind === 'left'
      ? level.spawners[when.spawnerId ?? '']?.at
      : undefined

/** What a standing sentence is called beside the numbers of steps: a, b, c … */
export const whenLetter = (k: number): string => String.fromCharCode(97 + (k % 26))

export interface BriefTag {
  /** Of the step or the standing sentence. */
  readonly id: string
  readonly text: string
  /** Metres east and north. */
  readonly at: readonly number[]
  readonly standing: boolean
}

/**
 * What the brief of a chosen thing says, where it happens: steps numbered in their order, as far as
 * that is known filled in as a chosen spawner fills them; then its standing sentences, lettered, at
 * the place that sets them off, or beside the first step when they hold wherever its agents are; and
 * the places they lead to.
 * @param id of a brief, or of a spawner or squad that is told by one
 */
export function briefTags(level: Level, id: string | undefined): BriefTag[] {
  const spawner = level.spawners[id ?? '']
  const squad = level.squads[spawner?.squadId ?? id ?? '']
  const brief = level.briefs[id ?? ''] ?? level.briefs[spawner?.briefId ?? squad?.briefId ?? '']
  if (!brief) return []
  const placed = (whenId: string | null, text: (k: number) => string): BriefTag[] =>
    stepsOf(brief, whenId).flatMap((step, k) => {
      const said = brief.steps[step]
      const at = placeOfStep(level, spawner ? filledStep(said, spawner.fills) : said, squad?.zoneId)
      return at ? [{ id: step, text: text(k), at, standing: whenId !== null }] : []
    })
  const steps = placed(null, (k) => String(k + 1))
  const everywhere = steps[0]?.at ?? spawner?.at
  const standing = brief.whens.flatMap((when, k) => {
    const at = placeOfWhen(level, when) ?? everywhere
    const letter = whenLetter(k)
    const own: BriefTag[] = at ? [{ id: when.id, text: letter, at, standing: true }] : []
    return [...own, ...placed(when.id, (s) => `${letter}${s + 1}`)]
  })
  return [...steps, ...standing]
}

/**
 * Small tags where a brief happens: steps as numbered flags strung together in their order, standing
 * sentences as lettered rounds.
 * @param pointed the line of the card that is pointed at
 */
export function drawBriefTags(pen: Pen, level: Level, alone: string | undefined, pointed: string | undefined): void {
  const tags = briefTags(level, alone).map((tag) => ({ ...tag, x: X(pen, tag.at[0]), y: Y(pen, tag.at[1]) }))
  const steps = tags.filter((tag) => !tag.standing)
  const { c, inks } = pen
  if (steps.length > 0) {
    c.strokeStyle = inks.colour.faded
    c.lineWidth = 1
    c.setLineDash([1, 4])
    c.beginPath()
    steps.forEach(({ x, y }, k) => (k === 0 ? c.moveTo(x, y - 22) : c.lineTo(x, y - 22)))
    c.stroke()
    c.setLineDash([])
  }
  const seen = new Map<string, number>()
  for (const { id, text, x, y, standing } of tags) {
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
    if (standing) c.arc(left + 9, y - 22, 9, 0, Math.PI * 2)
    else flag(c, left, y)
    c.fill()
    c.stroke()
    plainText(pen, text, left + 9, y - (standing ? 22 : 21), on ? inks.colour['on-fill'] : inks.colour.ink, true, 11)
  }
}

function flag(c: Pen['c'], left: number, y: number): void {
  c.moveTo(left, y - 14)
  c.lineTo(left, y - 26)
  c.lineTo(left + 4, y - 31)
  c.lineTo(left + 14, y - 31)
  c.lineTo(left + 18, y - 26)
  c.lineTo(left + 18, y - 14)
  c.closePath()
}
