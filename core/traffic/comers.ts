import { admits, type Level } from '@tidytrail/core/level'
import { lanesBeside } from './beside'
import type { LaneNet } from './net'

export type Comers = ReadonlyMap<string, ReadonlySet<string>>

interface Known {
  readonly spawners: Level['spawners']
  readonly told: ReadonlyMap<string, readonly string[]>
  readonly comers: Comers
}
const known = new WeakMap<LaneNet, Known>()

/**
 * Of each lane, the profiles of those who may come along it: who is put on it by a stream or told to follow it, and who
 * comes from lanes that lead into it. Those of streams change lanes as well.
 * @param told of each route the profiles that are told to follow it
 */
export function comersOf(
  net: LaneNet,
  spawners: Level['spawners'],
  told: ReadonlyMap<string, readonly string[]>,
): Comers {
  const before = known.get(net)
  if (before && before.spawners === spawners && before.told === told) return before.comers
  const comers = new Map<string, Set<string>>()
  const streams: [string, string][] = Object.values(spawners).flatMap((s) =>
    s.where !== 'lanes'
      ? []
      : s.laneIds.flatMap((lane) =>
          [s.profileId, ...s.mix.map((m) => m.profileId)].flatMap((p): [string, string][] => (p ? [[lane, p]] : [])),
        ),
  )
  spread(net, streams, lanesBeside(net), comers)
  const followers = [...told].flatMap(([lane, of]) => of.map((p): [string, string] => [lane, p]))
  spread(net, followers, new Map(), comers)
  known.set(net, { spawners, told, comers })
  return comers
}

/** Notes all lanes that can be got to from some on, each by a body. */
function spread(
  net: LaneNet,
  from: readonly (readonly [lane: string, profile: string])[],
  beside: ReadonlyMap<string, readonly { readonly id: string }[]>,
  comers: Map<string, Set<string>>,
): void {
  const seen = new Map<string, Set<string>>()
  const left = [...from]
  for (let next = left.pop(); next; next = left.pop()) {
    const [id, profile] = next
    const lane = net.lanes.get(id)
    if (!lane || !admits(lane.route, profile) || seen.get(id)?.has(profile)) continue
    for (const of of [seen, comers]) of.set(id, (of.get(id) ?? new Set()).add(profile))
    for (const { to } of net.out.get(id) ?? []) left.push([to, profile])
    for (const { id: other } of beside.get(id) ?? []) left.push([other, profile])
  }
}
