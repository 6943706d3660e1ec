import {
  afterWords,
  collectionOf,
  stepsOf,
  stepWords,
  whenWords,
  type BriefStep,
  type BriefWhen,
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
export const sentencesOf = (level: Level, briefId: string | null): string[] => {
  const brief = level.briefs[briefId ?? '']
  if (!brief) return []
  const steps = stepsOf(brief).map((s) => stepSentence(level, brief.steps[s]))
  const standing = brief.whens.map((when) => {
    const then = stepsOf(brief, when.id).map((s) => lower(stepSentence(level, brief.steps[s]).replace(/\.$/, '')))
    return `${whenWords(when, namingIn(level))}: ${[...then, afterWords(when)].join('; ')}.`
  })
  return [...steps, ...standing]
}

export const stepSentence = (level: Level, step: BriefStep): string => stepWords(step, namingIn(level))

/** A standing sentence by itself, with what comes after its steps. */
export const whenSentence = (level: Level, when: BriefWhen): string =>
  `${whenWords(when, namingIn(level))}${when.once ? ', once' : ''} … then ${afterWords(when)}.`

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
