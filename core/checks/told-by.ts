import type { Point3 } from '@tidytrail/core/geometry'
import { briefIdOf, briefIdsOf, factionIdOf, filledStep, type Spawner } from '@tidytrail/core/level'
import type { Look } from './check'

/** What squads a spawner may belong to, as far as a check looks at it. */
const squadsOf = (look: Look, { squadId }: Pick<Spawner, 'squadId'>) => {
  const squad = squadId ? look.level.thing('squads', squadId) : undefined
  return { squads: squad ? { [squadId!]: squad } : {} }
}

export const briefOfSpawner = (look: Look, s: Spawner): string | null => briefIdOf(squadsOf(look, s), s)
export const briefsOfSpawner = (look: Look, s: Spawner): string[] => briefIdsOf(squadsOf(look, s), s)
export const factionOfSpawner = (look: Look, s: Spawner): string | null => factionIdOf(squadsOf(look, s), s)
export const zoneOfSquad = (look: Look, s: Spawner): string | null =>
  squadsOf(look, s).squads[s.squadId ?? '']?.zoneId ?? null

/** Who is told by a brief: what a finding about it is about, where it is shown, and how they are called together. */
export function toldBy(
  look: Look,
  briefId: string,
): { subjects: string[]; at: Point3; who: string; spawners: [string, Spawner][] } {
  const spawners = look.graph.told(briefId).map((id): [string, Spawner] => [id, look.level.thing('spawners', id)!])
  return {
    subjects: [briefId, ...spawners.map(([id]) => id)],
    at: spawners[0]?.[1].at ?? [0, 0, 0],
    who: spawners.length > 0 ? spawners.map(([, s]) => s.name).join(', ') : look.level.thing('briefs', briefId)!.name,
    spawners,
  }
}

/** Who is told to do something in a zone: by a step that names it, or by one of their squad's. */
export function toldIn(
  look: Look,
  zoneId: string,
): { id: string; spawner: Spawner; holds: boolean; wanders: boolean }[] {
  return look.graph.inZone(zoneId).flatMap((id) => {
    const spawner = look.level.thing('spawners', id)!
    const squad = zoneOfSquad(look, spawner)
    let [holds, wanders] = [false, false]
    for (const briefId of briefsOfSpawner(look, spawner)) {
      const brief = look.level.thing('briefs', briefId)
      for (const raw of Object.values(brief?.steps ?? {})) {
        const step = filledStep(raw, spawner.fills)
        if (step.kind === 'hold') holds ||= (step.zoneId ?? squad) === zoneId
        if (step.kind === 'wander')
          wanders ||= (step.zoneId ?? squad) === zoneId || step.others.some((o) => o.zoneId === zoneId)
      }
    }
    return holds || wanders || squad === zoneId ? [{ id, spawner, holds, wanders }] : []
  })
}
