import {
  afterWords,
  collectionOf,
  filledStep,
  stepsOf,
  stepWords,
  whenWords,
  type Brief,
  type BriefStep,
  type BriefWhen,
  type Fill,
  type Level,
  type Naming,
} from '@tidytrail/core/level'
import { TRAVEL_WORDS } from '../../ui/figures'

/** What a thing a step names is called in its sentence: of a route also how it is travelled. */
const namingIn =
  (level: Level): Naming =>
  (id, otherwise) => {
    if (id === null) return otherwise
    const route = level.routes[id]
    // Many a route is called a round.
    const way = route?.travel === 'round' ? 'round and round' : route && TRAVEL_WORDS[route.travel].toLowerCase()
    if (route) return `${route.name}, ${way}`
    const collection = collectionOf(level, id)
    return collection ? (level[collection][id] as { name: string }).name : otherwise
  }

/** A brief as sentences, in the order they happen; the standing ones after them. */
export const sentencesOf = (level: Level, briefId: string | null, fills: readonly Fill[] = []): string[] => {
  const brief = level.briefs[briefId ?? '']
  if (!brief) return []
  const steps = stepsOf(brief).map((s) => stepSentence(level, told(brief.steps[s], fills), brief))
  const standing = brief.whens.map((when) => {
    const then = stepsOf(brief, when.id).map((s) =>
      lower(stepSentence(level, told(brief.steps[s], fills), brief).replace(/\.$/, '')),
    )
    return `${whenWords(when, namingIn(level))}: ${[...then, afterWords(when)].join('; ')}.`
  })
  return [...steps, ...standing]
}

/** A step with those of its blanks filled that somebody has filled. */
function told(step: BriefStep, fills: readonly Fill[]): BriefStep {
  const known = (id: string | null) => fills.some((f) => f.blankId === id)
  const filled = filledStep(step, fills)
  return {
    ...(known(step.blankId) || known(step.gaitBlankId) ? filled : step),
    blankId: known(step.blankId) ? null : step.blankId,
    gaitBlankId: known(step.gaitBlankId) ? null : step.gaitBlankId,
  } as BriefStep
}

/** A step as a sentence; a blank of its brief is named as that. */
export function stepSentence(level: Level, step: BriefStep, brief?: Brief): string {
  const blank = (id: string | null) => brief?.blanks.find((b) => b.id === id)
  const [about, pace] = [blank(step.blankId), blank(step.gaitBlankId)]
  const named = { ...step } as Record<string, unknown>
  if (about && 'routeId' in named) named.routeId = about.id
  if (about && 'zoneId' in named) named.zoneId = about.id
  if (pace && 'gait' in named) named.gait = `“${pace.name}”`
  const naming: Naming = (id, otherwise) =>
    about && id === about.id ? `its “${about.name}”` : namingIn(level)(id, otherwise)
  return stepWords(named as unknown as BriefStep, naming)
}

/** A standing sentence by itself, with what comes after its steps. */
export const whenSentence = (level: Level, when: BriefWhen): string =>
  `${whenWords(when, namingIn(level))}${when.once ? ', once' : ''} … then ${afterWords(when)}.`

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
