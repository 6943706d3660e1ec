import { distance2, lengthOf, mix3, type Point3 } from '@tidytrail/core/geometry'
import type { Check, Look } from '../check'
import { inTheWay } from '../ways/in-the-way'

/** Whoever stands in for the player: whose body goes along sneak lines. */
function standInOf(look: Look): string | undefined {
  return Object.values(look.level.all('spawners')).find((s) => s.standIn && s.profileId)?.profileId ?? undefined
}

export const sneakLineBlocked: Check = {
  id: 'sneak-line.blocked',
  stage: 'rehearse',
  severity: 'warning',
  sentence:
    'A sneak line leads where the stand-in cannot go: through something, over an edge, or where there is no floor.',
  each: 'sneakLines',
  run(look, id) {
    const { name, points } = look.level.thing('sneakLines', id)!
    const profileId = standInOf(look)
    const profile = profileId && look.level.thing('profiles', profileId)
    if (!profile) return []
    for (let k = 1; k < points.length; k++) {
      const [from, to]: readonly Point3[] = [points[k - 1], points[k]]
      const way = look.reach.path(profileId, from, to, 'drawn')
      if (!way) return []
      if (way.found) continue
      const at = way.stopsAt ?? mix3(from, to, 0.5)
      const along = lengthOf(points.slice(0, k)) + distance2(from, at)
      const why = way.stopsAt ? inTheWay(look, profileId, way.stopsAt, to) : 'nothing leads straight on from there'
      const round = look.reach.path(profileId, from, to, 'found')
      const corners = round?.found ? round.line.slice(1, -1).map((q): [number, number, number] => [...q]) : undefined
      return [
        {
          subjects: [id],
          at,
          message: `${profile.name} cannot go along ${name}: ${Math.round(along)} m along ${why}.`,
          ...(corners && {
            fix: {
              label: 'Lead it round',
              edit: 'changeThings' as const,
              args: {
                in: 'sneakLines' as const,
                changes: { [id]: { points: [...points.slice(0, k), ...corners, ...points.slice(k)] } },
              },
            },
          }),
        },
      ]
    }
    return []
  },
}
