import type { Check } from '../check'
import { metres } from '../words'

export const spawnerTooClose: Check = {
  id: 'spawner.too-close',
  stage: 'cast',
  severity: 'warning',
  sentence: 'Places of spawners lie so close that one must wait until the other has gone.',
  each: 'spawners',
  run(look, id) {
    const spawner = look.level.thing('spawners', id)!
    const profile = spawner.profileId ? look.level.thing('profiles', spawner.profileId) : undefined
    if (!profile) return []
    const needM = 2 * profile.radiusM
    const rows = spawner.where === 'ranks' || (spawner.where === 'route' && spawner.along === 'apart')
    if (rows && spawner.apartM < needM && spawner.count > 1) {
      const apartM = Math.ceil(needM * 10 + 1) / 10
      return [
        {
          subjects: [id],
          at: spawner.at,
          message: `${spawner.name} sends bodies of ${metres(needM)} every ${metres(spawner.apartM)}.`,
          fix: {
            label: `Send them ${metres(apartM)} apart`,
            edit: 'changeThings',
            args: { in: 'spawners', changes: { [id]: { apartM } } },
          },
        },
      ]
    }
    const beside = look.graph.beside(id).filter((other) => other < id)
    for (const otherId of beside) {
      const other = look.level.thing('spawners', otherId)!
      const radiusM = (other.profileId ? look.level.thing('profiles', other.profileId)?.radiusM : undefined) ?? 0
      const [x, y, z] = spawner.at
      const dx = x - other.at[0]
      const dy = y - other.at[1]
      const apartM = Math.sqrt(dx * dx + dy * dy)
      const wanted = profile.radiusM + radiusM
      if (apartM >= wanted || Math.abs(z - other.at[2]) > profile.heightM) continue
      const message = `${spawner.name} and ${other.name} are ${metres(apartM)} apart, and their agents take ${metres(wanted)}.`
      const away = apartM > 0.01 ? [dx / apartM, dy / apartM] : [1, 0]
      const map = look.reach.map(spawner.profileId!, spawner.at, wanted * 4)
      const free = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => {
        const [c, s] = TURNS[k]
        const m = wanted + 0.1
        const px = other.at[0] + (away[0] * c - away[1] * s) * m
        const py = other.at[1] + (away[0] * s + away[1] * c) * m
        const near = map?.nearestReached(px, py, z, 0.3)
        if (!near) return []
        const at = near.at.map((v) => Math.round(v * 1000) / 1000) as unknown as typeof near.at
        const clear = beside.every((b) => {
          const [bx, by] = look.level.thing('spawners', b)!.at
          return Math.sqrt((bx - at[0]) ** 2 + (by - at[1]) ** 2) >= wanted
        })
        return clear ? [at] : []
      })[0]
      const fix = free && {
        label: 'Move it beside the other',
        edit: 'movePlaces' as const,
        args: { places: { [id]: free } },
      }
      return [{ subjects: [id, otherId], at: spawner.at, message, ...(fix ? { fix } : {}) }]
    }
    return []
  },
}
const H = Math.SQRT1_2
const TURNS = [
  [1, 0],
  [H, H],
  [H, -H],
  [0, 1],
  [0, -1],
  [-H, H],
  [-H, -H],
  [-1, 0],
] as const
