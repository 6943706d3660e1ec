import type { Level } from '@tidytrail/core/level'
import { corridorOf, laneNet, waysOf } from '@tidytrail/core/traffic'

/** The lanes from which a green wave can be looked at for what is chosen: a lane, or those that lead to a junction. */
export function waveWays(level: Level, chosen: string | undefined): string[] {
  if (!chosen) return []
  const net = laneNet(level)
  const junction = level.junctions[chosen]
  const lanes = net.lanes.has(chosen)
    ? [chosen]
    : junction?.control === 'signals'
      ? [...new Set(waysOf(level, net, junction).map((w) => w.from))]
      : []
  const found = lanes
    .map((id) => ({ id, signals: corridorOf(level, net, id).signals }))
    .filter(({ signals }) => signals.length > 1)
    // Of several lanes beside each other one is enough.
    .filter(({ signals }, k, all) => {
      const key = (s: typeof signals) => s.map((one) => one.junctionId).join(' ')
      return all.findIndex((other) => key(other.signals) === key(signals)) === k
    })
  return found.sort((a, b) => b.signals.length - a.signals.length || (a.id < b.id ? -1 : 1)).map(({ id }) => id)
}
