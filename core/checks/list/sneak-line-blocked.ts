import { distance2, lengthOf, mix3, type Point3 } from '@tidytrail/core/geometry'
import { standInIdOf } from '@tidytrail/core/level'
import type { Check } from '../check'
import { inTheWay } from '../ways/in-the-way'

type Place = [number, number, number]

export const sneakLineBlocked: Check = {
  id: 'sneak-line.blocked',
  stage: 'rehearse',
  severity: 'warning',
  sentence:
    'A sneak line leads where the stand-in cannot go: through something, over an edge, or where there is no floor.',
  each: 'sneakLines',
  run(look, id) {
    const { name, points } = look.level.thing('sneakLines', id)!
    const spawners = look.level.all('spawners')
    // Whose body goes along it: that of whoever stands in for the player.
    const profileId = spawners[standInIdOf(spawners) ?? '']?.profileId
    const profile = profileId && look.level.thing('profiles', profileId)
    if (!profile) return []
    let stopped: { at: Point3; along: number; why: string } | undefined
    // All of it is led round at once: with one stretch of two it would be barred still.
    let round: Place[] | undefined = [points[0]]
    for (let k = 1; k < points.length; k++) {
      const [from, to] = [points[k - 1], points[k]]
      const way = look.reach.path(profileId, from, to, 'drawn')
      if (!way) return []
      if (!way.found) {
        const at = way.stopsAt ?? mix3(from, to, 0.5)
        stopped ??= {
          at,
          along: lengthOf(points.slice(0, k)) + distance2(from, at),
          why: way.stopsAt ? inTheWay(look, profileId, way.stopsAt, to) : 'nothing leads straight on from there',
        }
        const found = look.reach.path(profileId, from, to, 'found')
        round = found?.found ? round?.concat(found.line.slice(1, -1).map((q): Place => [...q])) : undefined
      }
      round?.push(to)
    }
    if (!stopped) return []
    const { at, along, why } = stopped
    const changes = round && { [id]: { points: round } }
    return [
      {
        subjects: [id],
        at,
        message: `${profile.name} cannot go along ${name}: ${Math.round(along)} m along ${why}.`,
        ...(changes && { fix: { label: 'Lead it round', edit: 'changeThings', args: { in: 'sneakLines', changes } } }),
      },
    ]
  },
}
