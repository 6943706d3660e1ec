import type { Level } from '@tidytrail/core/level'
import type { VerdictWord } from '@tidytrail/core/rehearsal'
import type { AgentMoment } from '../stores/rehearsal'

export const VERDICT_WORDS: Record<VerdictWord, string> = {
  follows: 'follows',
  'follows-with-remarks': 'with remarks',
  'does-not-follow': 'does not follow',
  'not-tried': 'not tried',
}

export const VERDICT_TONES: Record<VerdictWord, 'good' | 'fair' | 'bad' | 'plain'> = {
  follows: 'good',
  'follows-with-remarks': 'fair',
  'does-not-follow': 'bad',
  'not-tried': 'plain',
}

/** What a stop of an agent's route is called. */
export function stopName(level: Level, routeId: string | null, index: number): string {
  const route = routeId ? level.routes[routeId] : undefined
  const stop = route?.stops[route.order[index]]
  const name = stop ? level.waypoints[stop.waypointId]?.name : ''
  return name ? `${index + 1}, ${name}` : `${index + 1}`
}

/** What an agent is doing, in a few words. */
export function stateWords(level: Level, now: AgentMoment | undefined): string {
  switch (now?.state) {
    case undefined:
      return 'has left'
    case 'walking':
      if (now.toStop < 0) return 'on its way'
      return now.fromStop < 0
        ? `on its way to stop ${stopName(level, now.routeId, now.toStop)}`
        : `leg ${now.fromStop + 1} to ${now.toStop + 1}`
    case 'pausing':
      return now.toStop < 0 ? 'pausing' : `pausing at ${stopName(level, now.routeId, now.toStop)}`
    case 'crossing':
      return 'goes through a passage'
    case 'steered':
      return 'goes where it is steered'
    case 'blocked':
      return 'cannot go on'
    case 'done':
      return 'finished its brief'
    default:
      return 'about to set out'
  }
}
