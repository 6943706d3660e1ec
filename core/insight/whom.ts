import type { Trial } from '@tidytrail/core/level'
import type { Recorded } from '@tidytrail/core/rehearsal'

/** Whom a trial is about: the keys of those of a recording it means. A stand-in is meant only by its spawner. */
export function keysOf(
  recorded: Recorded,
  trial: Pick<Trial, 'whom' | 'spawnerId' | 'factionId' | 'routeId'>,
): Set<number> {
  const { agents } = recorded
  const keys = (list: typeof agents) => new Set(list.map((a) => a.key))
  switch (trial.whom) {
    case 'everybody':
      return keys(agents.filter((a) => !a.standIn))
    case 'spawner':
      return keys(agents.filter((a) => a.spawnerId === trial.spawnerId))
    case 'faction':
      return keys(agents.filter((a) => trial.factionId !== null && a.factionId === trial.factionId))
    case 'route':
      return keysOnRoute(recorded, trial.routeId)
  }
}

/** Those who were on a route at some time. */
export function keysOnRoute({ events, routes }: Recorded, routeId: string | null): Set<number> {
  const n = routes.indexOf(routeId ?? '')
  return n < 0 ? new Set() : new Set(events.filter((e) => e.route === n).map((e) => e.key))
}
