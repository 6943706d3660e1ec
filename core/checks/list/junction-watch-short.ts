import { pairKey, yieldKey } from '@tidytrail/core/traffic'
import type { Check } from '../check'
import { wayName } from '../lanes'

export const junctionWatchShort: Check = {
  id: 'junction.watch-short',
  stage: 'routes',
  severity: 'warning',
  sentence: 'One that gives way watches less of the other way than it needs to be across before anybody comes.',
  each: 'junctions',
  run(look, id) {
    const junction = look.level.thing('junctions', id)!
    const short = look.lanes.watches(id).filter((w) => w.short)
    if (short.length === 0) return []
    const [{ who, to, at, watchM, needM, approachMps, clearsS }] = short
    const more = short.length > 1 ? ` So it is with ${short.length} pairs of ways.` : ''
    const keys = new Set(short.map((s) => pairKey(s.who, s.to)))
    const yields = junction.yields.map((y) => (keys.has(yieldKey(y)) ? { ...y, watchM: null } : { ...y }))
    const comesS = watchM / approachMps
    return [
      {
        subjects: [id, who, to],
        at,
        message: `At ${junction.name} ${wayName(look, who)} watches ${watchM.toFixed(0)} m of ${wayName(look, to)} and needs ${needM.toFixed(0)}: at ${approachMps.toFixed(1)} m/s one comes from there in ${comesS.toFixed(1)} s, and it takes ${clearsS.toFixed(1)} s to set off and be out of the way.${more}`,
        fix: {
          label: 'Let it watch as far as it needs',
          edit: 'changeThings',
          args: { in: 'junctions', changes: { [id]: { yields } } },
        },
      },
    ]
  },
}
