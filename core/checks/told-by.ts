import type { Point3 } from '@tidytrail/core/geometry'
import type { Look } from './check'

/** Who is told by a brief: what a finding about it is about, where it is shown, and how they are called together. */
export function toldBy(look: Look, briefId: string): { subjects: string[]; at: Point3; who: string } {
  const spawners = Object.entries(look.level.all('spawners')).filter(([, s]) => s.briefId === briefId)
  return {
    subjects: [briefId, ...spawners.map(([id]) => id)],
    at: spawners[0]?.[1].at ?? [0, 0, 0],
    who: spawners.length > 0 ? spawners.map(([, s]) => s.name).join(', ') : look.level.thing('briefs', briefId)!.name,
  }
}
