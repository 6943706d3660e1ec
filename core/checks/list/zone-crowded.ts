import { areaOfZone } from '../cast'
import type { Check } from '../check'
import { toldIn } from '../told-by'

/** More of them for each post than this, and one waits longer than it holds. */
const TURNS = 3

export const zoneCrowded: Check = {
  id: 'zone.crowded',
  stage: 'cast',
  severity: 'warning',
  sentence: 'So many are told to hold a zone that most of them only wait for a post.',
  each: 'zones',
  run(look, id) {
    const zone = look.level.thing('zones', id)!
    const holders = toldIn(look, id).filter((t) => t.holds)
    if (holders.length === 0) return []
    const posts = Object.values(look.level.all('posts')).filter((p) => p.zoneId === id).length
    const agents = holders.reduce((sum, h) => sum + h.spawner.count, 0)
    if (posts === 0 || agents <= TURNS * posts) return []
    const area = areaOfZone(look, zone)
    const [x, y] = area?.middle ?? [0, 0]
    const { id: most, spawner } = holders.reduce((a, b) => (b.spawner.count > a.spawner.count ? b : a))
    const fewer = Math.max(1, spawner.count - (agents - TURNS * posts))
    const enough = agents - spawner.count + fewer <= TURNS * posts
    return [
      {
        subjects: [id, ...holders.map((h) => h.id)],
        at: [x, y, holders[0].spawner.at[2]],
        message: `${agents} agents of ${holders.length === 1 ? holders[0].spawner.name : `${holders.length} spawners`} are told to hold ${zone.name}, which has ${posts === 1 ? 'one post' : `${posts} posts`}.`,
        ...(enough
          ? {
              fix: {
                label: `Let ${spawner.name} send ${fewer}`,
                edit: 'changeThings' as const,
                args: { in: 'spawners' as const, changes: { [most]: { count: fewer } } },
              },
            }
          : {}),
      },
    ]
  },
}
