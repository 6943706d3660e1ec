import type { Point3 } from '@tidytrail/core/geometry'
import type { Check } from '../check'

const WHY: Record<string, string> = {
  water: 'There is no water deep and wide enough for it.',
  air: 'Nowhere is there room in its height band.',
}

export const reachNone: Check = {
  id: 'reach.none',
  stage: 'reach',
  severity: 'blocker',
  sentence: 'A profile that somebody has can be nowhere in the level.',
  each: 'profiles',
  run(look, id) {
    if (look.reach.islandCount(id) !== 0) return []
    const profile = look.level.thing('profiles', id)!
    const { extent } = look.level.settings()
    const at: Point3 = [(extent.minX + extent.maxX) / 2, (extent.minY + extent.maxY) / 2, 0]
    const why = WHY[profile.medium] ?? 'Its reach areas, size, step and slope leave no place.'
    return [{ subjects: [id], at, message: `${profile.name} can be nowhere in this level. ${why}` }]
  },
}
