import { defineEdit } from '../edit'
import { nameOf } from '../kinds'

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
    const step = brief?.order.map((s) => brief.steps[s]).find((s) => s.kind === 'follow-route')
    if (step?.kind === 'follow-route') {
      step.routeId = routeId
      return
    }
    if (routeId === null) {
      spawner.briefId = null
      return
    }
    const newStep = { kind: 'follow-route' as const, routeId, gait: null }
    if (brief) {
      brief.steps[stepId] = newStep
      brief.order.push(stepId)
      return
    }
    const name = `Brief of ${spawner.name}`
    draft.briefs[briefId] = {
      name,
      steps: { [stepId]: newStep },
      order: [stepId],
      note: '',
      tags: [],
      locked: false,
      hidden: false,
    }
    spawner.briefId = briefId
  },
)
