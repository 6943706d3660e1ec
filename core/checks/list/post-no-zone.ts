import type { Check } from '../check'
import type { Fix } from '../fix'
import { areaOfZone } from '../cast'

export const postNoZone: Check = {
  id: 'post.no-zone',
  stage: 'cast',
  severity: 'warning',
  sentence: 'A post belongs to no zone, so that no squad holds it.',
  each: 'posts',
  run(look, id) {
    const post = look.level.thing('posts', id)!
    if (post.zoneId !== null) return []
    // One that a brief names is of use by itself.
    for (const brief of Object.values(look.level.all('briefs')))
      for (const step of Object.values(brief.steps)) if ('postId' in step && step.postId === id) return []
    const [x, y, z] = post.at
    const near = Object.entries(look.level.all('zones')).flatMap(([zoneId, zone]) => {
      const area = areaOfZone(look, zone)
      if (!area) return []
      return [{ zoneId, zone, far: area.holds(x, y, z) ? 0 : area.edgeM(x, y) }]
    })
    const nearest = near.sort((a, b) => a.far - b.far || (a.zoneId < b.zoneId ? -1 : 1))[0]
    const fix: Fix | undefined = nearest && {
      label: `Give it to ${nearest.zone.name}`,
      edit: 'changeThings',
      args: { in: 'posts', changes: { [id]: { zoneId: nearest.zoneId } } },
    }
    const where = !nearest ? '' : nearest.far === 0 ? `, though it lies in ${nearest.zone.name}` : ''
    return [
      {
        subjects: [id],
        at: post.at,
        message: `${post.name || 'A post'} belongs to no zone${where}; no squad will hold it.`,
        ...(fix ? { fix } : {}),
      },
    ]
  },
}
