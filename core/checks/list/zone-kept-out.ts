import type { Point3 } from '@tidytrail/core/geometry'
import { filledStep, sendsFromSpot, type Area, type BriefStep, type Spawner } from '@tidytrail/core/level'
import { areaOfZone } from '../cast'
import type { Check, Look } from '../check'
import { briefOfSpawner, factionOfSpawner, zoneOfSquad } from '../told-by'

/** A way is looked at so closely, metres. */
const EVERY_M = 0.5

export const zoneKeptOut: Check = {
  id: 'zone.kept-out',
  stage: 'cast',
  severity: 'warning',
  sentence: 'Somebody appears in, is sent to or led through a zone those of their side are to keep out of.',
  each: 'zones',
  run(look, id) {
    const zone = look.level.thing('zones', id)!
    if (zone.purpose !== 'keep-out') return []
    const area = areaOfZone(look, zone)
    if (!area) return []
    for (const [spawnerId, spawner] of Object.entries(look.level.all('spawners'))) {
      const faction = factionOfSpawner(look, spawner)
      const meant = zone.factionIds.length === 0 || (faction !== null && zone.factionIds.includes(faction))
      const found = meant ? trespass(look, id, spawner, area) : undefined
      if (!found) continue
      const others = Object.keys(look.level.all('factions')).filter((f) => f !== faction)
      const left = zone.factionIds.length > 0 ? zone.factionIds.filter((f) => f !== faction) : others
      const name = faction ? look.level.thing('factions', faction)?.name : undefined
      // With nobody left to be kept out it would keep everyone out.
      const fix = name && left.length > 0
      return [
        {
          subjects: [id, spawnerId],
          at: found.at,
          message: `${spawner.name} ${found.what} ${zone.name}, which ${name ?? 'everyone'} is to keep out of.`,
          ...(fix
            ? {
                fix: {
                  label: `Let ${name} in`,
                  edit: 'changeThings' as const,
                  args: { in: 'zones' as const, changes: { [id]: { factionIds: left } } },
                },
              }
            : {}),
        },
      ]
    }
    return []
  },
}

interface Trespass {
  readonly at: Point3
  readonly what: string
}

function trespass(look: Look, zoneId: string, spawner: Spawner, area: Area): Trespass | undefined {
  const within = (at: Point3) => area.holds(at[0], at[1], at[2])
  const spots = spawner.where === 'spots' ? [spawner.at, ...spawner.spots] : [spawner.at]
  const spot = !sendsFromSpot(spawner) ? undefined : spots.find(within)
  if (spot) return { at: spot, what: 'appears in' }
  if (zoneOfSquad(look, spawner) === zoneId) return { at: spawner.at, what: 'belongs to a squad of' }
  const briefId = briefOfSpawner(look, spawner)
  const brief = briefId ? look.level.thing('briefs', briefId) : undefined
  for (const stepId of brief?.order ?? []) {
    const found = sentInto(look, zoneId, spawner, filledStep(brief!.steps[stepId], spawner.fills), within)
    if (found) return found
  }
  return undefined
}

function sentInto(
  look: Look,
  zoneId: string,
  spawner: Spawner,
  step: BriefStep,
  within: (at: Point3) => boolean,
): Trespass | undefined {
  if ('zoneId' in step && step.zoneId === zoneId && (!('to' in step) || step.to === 'zone'))
    return { at: spawner.at, what: 'is told to be in' }
  if (step.kind !== 'follow-route') return undefined
  for (const routeId of [step.routeId, ...step.others.map((o) => o.routeId)]) {
    if (!routeId || !spawner.profileId) continue
    for (const leg of look.reach.legs(spawner.profileId, routeId) ?? []) {
      const at = leg.found ? firstWithin(leg.line, within) : undefined
      if (at) return { at, what: 'is led through' }
    }
  }
  return undefined
}

/** The first place of a line, looked at every half metre, of which something is true. */
function firstWithin(line: readonly Point3[], within: (at: Point3) => boolean): Point3 | undefined {
  for (let k = 1; k < line.length; k++) {
    const [a, b] = [line[k - 1], line[k]]
    const n = Math.max(1, Math.ceil(Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) / EVERY_M))
    for (let q = 0; q <= n; q++) {
      const at: Point3 = [
        a[0] + ((b[0] - a[0]) * q) / n,
        a[1] + ((b[1] - a[1]) * q) / n,
        a[2] + ((b[2] - a[2]) * q) / n,
      ]
      if (within(at)) return at
    }
  }
  return undefined
}
