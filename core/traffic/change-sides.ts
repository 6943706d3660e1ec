import { driveOn, type Junction, type Level, type Phase } from '@tidytrail/core/level'
import { pairKey, pairsOf, whoYields, yieldKey } from './junction'
import { laneNet } from './net'
import { roundsTurned } from './roundabout'
import { sidesSwapped } from './sides'
import { usualPhases } from './usual-phases'
import { usualYields } from './yields'

type Change = Parameters<typeof driveOn.apply>[1]
const lights = (phases: readonly Phase[]): string =>
  JSON.stringify(phases.map((p) => [p.greenS, p.amberS, p.allRedS, p.linkIds, p.laneIds]))

/**
 * All that changes where one drives on the other side: roads lay their lanes anew, lanes that lead against each other
 * change places, rounds lead the other way about. At junctions that were settled, what was as usual is as usual for the
 * other side; what was said otherwise stays, for as long as those ways are in each other's way.
 */
export function sidesChanged(level: Level): Change {
  const side = level.settings.drivesOn === 'left' ? 'right' : 'left'
  const net = laneNet(level)
  const { moves, orders } = roundsTurned(net)
  const change = { side, moves: { ...sidesSwapped(net, level.waypoints), ...moves }, orders } as const
  const later = driveOn.apply(level, change).level
  const then = laneNet(later)
  const junctions: Record<string, Pick<Junction, 'phases' | 'yields'>> = {}
  for (const [id, junction] of Object.entries(level.junctions)) {
    const pairs = pairsOf(level, net, junction)
    if (pairs.length === 0 || pairs.some((p) => p.settled.by === 'nothing')) continue
    const asUsual = lights(junction.phases) === lights(usualPhases(level, net, junction))
    const phases = asUsual ? usualPhases(later, then, junction) : junction.phases
    const usual = new Set(usualYields(level, net, { ...junction, yields: [] }).map(yieldKey))
    const inTheWay = new Set(
      pairsOf(later, then, junction).flatMap(({ a, b }) => [pairKey(a.id, b.id), pairKey(b.id, a.id)]),
    )
    const own = junction.yields.filter((y) => !usual.has(yieldKey(y)) && inTheWay.has(yieldKey(y)))
    const stopping = new Set(junction.yields.flatMap((y) => (y.stops ? [whoYields(y)] : [])))
    const watching = new Map(junction.yields.map((y) => [yieldKey(y), y.watchM]))
    const yields = usualYields(later, then, { ...junction, phases, yields: own }).map((y) =>
      own.includes(y) ? y : { ...y, stops: stopping.has(whoYields(y)), watchM: watching.get(yieldKey(y)) ?? null },
    )
    junctions[id] = { phases, yields }
  }
  return { ...change, junctions }
}
