import { addAndSet, briefSchema, freshName, newStep, spawnerSchema, type Level } from '@tidytrail/core/level'
import { defaultProfile } from '@tidytrail/core/network'
import { randomId } from '../../stores/random-id'
import { facingTool } from '../../tools/facing'
import type { MakeTool } from '../../tools/tool'

/** A brief that already says to follow a route and nothing else, so that several share it. */
const followed = (level: Level, routeId: string): string | undefined =>
  Object.keys(level.briefs).find((id) => {
    const { steps, order, whens } = level.briefs[id]
    const step = steps[order[0]]
    if (order.length !== 1 || whens.length > 0 || step.kind !== 'follow-route') return false
    return step.routeId === routeId && step.others.length === 0 && step.gait === null
  })

/** Places spawners, one after the other; one placed on a route follows it. */
export const placeSpawnerTool: MakeTool = (ctx) =>
  facingTool(
    ctx,
    {
      id: 'spawner',
      label: 'Spawner',
      key: 's',
      stages: ['cast'],
      places: ['spawners'],
      hint: 'Click to place spawners, drag to say which way they face. On a route they follow it. Escape ends.',
      ink: 'pine',
    },
    (at, facingRad, p) => {
      const level = ctx.levels.doc
      const id = randomId('spawners')
      const hit = ctx.hit(p, ['stop', 'leg'])
      const hitId = hit?.kind === 'stop' ? hit.routeId : hit?.id
      const route = level.routes[hitId ?? '']?.kind === 'network' ? undefined : level.routes[hitId ?? '']
      const routeId = route ? hitId : undefined
      const known = routeId ? followed(level, routeId) : undefined
      const briefId = routeId ? (known ?? randomId('briefs')) : null
      const stepId = randomId('steps')
      // The one placed before tells what most are like.
      const last = level.spawners[ctx.sheet.chosen ?? '']
      const thing = spawnerSchema.parse({
        name: freshName(level.spawners, route ? `${route.name} spawner` : 'Spawner'),
        at,
        facingRad: facingRad ?? 0,
        profileId: route?.profileIds[0] ?? last?.profileId ?? defaultProfile(level) ?? null,
        factionId: last?.factionId ?? null,
        squadId: last?.squadId ?? null,
        briefId,
      })
      const brief =
        routeId && !known
          ? [
              {
                in: 'briefs' as const,
                id: briefId!,
                thing: briefSchema.parse({
                  name: `Follow ${route!.name}`.slice(0, 200),
                  steps: { [stepId]: newStep('follow-route', { routeId }) },
                  order: [stepId],
                }),
              },
            ]
          : []
      ctx.levels.perform(addAndSet, {
        add: [...brief, { in: 'spawners', id, thing }],
        set: [],
        label: route ? `Add a spawner that follows ${route.name}` : 'Add a spawner',
      })
      ctx.sheet.choose([id])
    },
  )
