import { collectionOf, stepWords, type BriefStep, type Level, type Naming } from '@tidytrail/core/level'
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

/** A brief as sentences, in the order they happen. */
export const sentencesOf = (level: Level, briefId: string | null): string[] => {
  const brief = level.briefs[briefId ?? '']
  return brief ? brief.order.map((s) => stepSentence(level, brief.steps[s])) : []
}

export const stepSentence = (level: Level, step: BriefStep): string => stepWords(step, namingIn(level))
