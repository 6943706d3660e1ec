import { areaOfZone } from '../cast'
import type { Check } from '../check'
import type { Fix } from '../fix'
import { toldIn } from '../told-by'

export const zoneNoPosts: Check = {
  id: 'zone.no-posts',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'Agents are told to hold the posts of a zone that has none.',
  each: 'zones',
  run(look, id) {
    const zone = look.level.thing('zones', id)!
    const holders = toldIn(look, id).filter((t) => t.holds)
    if (holders.length === 0) return []
    const posts = look.level.all('posts')
    if (Object.values(posts).some((p) => p.zoneId === id)) return []
    const area = areaOfZone(look, zone)
    const inside = Object.entries(posts).filter(([, p]) => p.zoneId === null && area?.holds(p.at[0], p.at[1], p.at[2]))
    const fix: Fix | undefined =
      inside.length > 0
        ? {
            label: `Give it the ${inside.length === 1 ? 'post' : `${inside.length} posts`} in it`,
            edit: 'changeThings',
            args: { in: 'posts', changes: Object.fromEntries(inside.map(([postId]) => [postId, { zoneId: id }])) },
          }
        : undefined
    const [x, y] = area?.middle ?? [0, 0]
    return [
      {
        subjects: [id, ...holders.map((h) => h.id)],
        at: [x, y, holders[0].spawner.at[2]],
        message: `${holders.map((h) => h.spawner.name).join(', ')} ${holders.length === 1 ? 'is' : 'are'} told to hold ${zone.name}, which has no posts.`,
        ...(fix ? { fix } : {}),
      },
    ]
  },
}
