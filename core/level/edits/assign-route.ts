import { defineEdit } from '../edit'
import { nameOf, newStep } from '../kinds'

/**
 * Give a spawner's agents a route to follow. The spawner's brief is changed when nobody shares it; otherwise the
 * spawner gets a brief of its own, so that the others keep theirs.
 * @param briefId and stepId: ids to use should new ones be needed
 */
export const assignRoute = defineEdit<{ spawnerId: string; routeId: string | null; briefId: string; stepId: string }>(
  (level, { spawnerId, routeId }) =>
    routeId
      ? `${nameOf(level, spawnerId)} follows ${nameOf(level, routeId)}`
      : `${nameOf(level, spawnerId)} follows no route`,
  (draft, { spawnerId, routeId, briefId, stepId }) => {
    const spawner = draft.spawners[spawnerId]
    if (!spawner) return
    const shared = Object.values(draft.spawners).filter((s) => s.briefId === spawner.briefId).length > 1
    const brief = spawner.briefId && !shared ? draft.briefs[spawner.briefId] : undefined
    const follow = brief?.order.map((s) => brief.steps[s]).find((s) => s.kind === 'follow-route')
    if (follow?.kind === 'follow-route') {
      follow.routeId = routeId
      return
    }
    if (routeId === null) {
      spawner.briefId = null
      return
    }
    const step = newStep('follow-route', { routeId })
    if (brief) {
      brief.steps[stepId] = step
      brief.order.push(stepId)
      return
    }
    const name = `Brief of ${spawner.name}`
    draft.briefs[briefId] = {
      name,
      steps: { [stepId]: step },
      order: [stepId],
      whens: [],
      blanks: [],
      note: '',
      tags: [],
      locked: false,
      hidden: false,
    }
    spawner.briefId = briefId
  },
)
