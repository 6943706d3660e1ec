import type { Check } from '../check'

export const spawnerBoundNowhere: Check = {
  id: 'spawner.bound-nowhere',
  stage: 'cast',
  severity: 'warning',
  sentence: 'Some of a stream are bound for a lane that no way leads to from where they come on.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    if (spawner.where !== 'lanes') return []
    const lanes = spawner.laneIds.filter((laneId) => look.lanes.lane(laneId))
    const nowhere = spawner.bound.flatMap(({ laneId }) => {
      if (!look.lanes.lane(laneId)) return []
      const from = lanes.find((from) => !look.lanes.leadsTo(from, laneId))
      return from ? [{ from, laneId }] : []
    })
    if (nowhere.length === 0) return []
    const name = (routeId: string) => look.level.thing('routes', routeId)!.name
    const [{ from, laneId }] = nowhere
    const more = nowhere.length > 1 ? ` So it is with ${nowhere.length} of the lanes they are bound for.` : ''
    const lost = new Set(nowhere.map((n) => n.laneId))
    const bound = spawner.bound.filter((b) => !lost.has(b.laneId))
    return [
      {
        subjects: [id, from, laneId],
        at: spawner.at,
        message: `Some of ${spawner.name} are bound for ${name(laneId)}, and no way leads there from ${name(from)}: at each fork they go by its shares.${more}`,
        fix: {
          label: lost.size > 1 ? 'Send nobody to those' : 'Send nobody there',
          edit: 'changeThings',
          args: { in: 'spawners', changes: { [id]: { bound } } },
        },
      },
    ]
  },
}
