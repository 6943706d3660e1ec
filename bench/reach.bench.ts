import { changeThings, type Level } from '@tidytrail/core/level'
import { buildReach, PathFinder, reachSource, ReachMap } from '@tidytrail/core/reach'
import { chance, exactShortest, grownRing, prisms, sceneLevel, strewnObstacles } from '@tidytrail/core/testing'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { quantile, report, timed } from './measure'
import { surveyedByTwo } from './surveyors'

const SIDE = 1000
const BLOCKS = 400

function kilometre(): { level: Level; rings: ReturnType<typeof strewnObstacles> } {
  const rings = strewnObstacles(SIDE, BLOCKS, 3, 1)
  return {
    level: sceneLevel(SIDE, SIDE, prisms(rings), {
      settings: { extent: { minX: 0, minY: 0, maxX: SIDE, maxY: SIDE }, cellM: 0.5 },
    }),
    rings,
  }
}

export async function benchReach(): Promise<void> {
  const { level, rings } = kilometre()
  const source = reachSource(level, 'pf_warden')
  buildReach(source)
  const { ms, value: map } = timed(() => buildReach(source))
  const columns = map.columns * map.rows
  report({
    what: `reach map, full build, 1 km² at 0.5 m, ${rings.length} solids`,
    measured: ms / 1000,
    unit: 's',
    budget: 3,
  })
  report({
    what: 'the same, columns a second',
    measured: columns / (ms / 1000),
    unit: 'columns/s',
    budget: 1.5e6,
    less: false,
  })

  await benchThreads(level, columns, ms)

  const dragged: number[] = []
  let now = level
  const [id] = Object.keys(level.solids)
  for (let k = 0; k < 40; k++) {
    const solid = now.solids[id]
    if (solid.shape !== 'prism') throw new Error('a prism was expected')
    now = changeThings.apply(now, {
      in: 'solids',
      changes: { [id]: { ring: solid.ring.map(([x, y]): [number, number] => [x + 0.5, y]) } },
    }).level
    dragged.push(timed(() => map.carryOut(map.planFor(reachSource(now, 'pf_warden'))!)).ms)
  }
  report({
    what: 'reach map, rebuild while one solid is dragged, 95th',
    measured: quantile(dragged, 0.95),
    unit: 'ms',
    reference: `full build ${Math.round(ms)} ms`,
  })
  benchPaths(map, rings)
  benchQuality()

  const quay = DEMO_LEVELS[0].make()
  const quaySource = reachSource(quay, 'pf_warden')
  const built = timed(() => new ReachMap(quaySource).carryOut(new ReachMap(quaySource).planFor(quaySource)!))
  report({ what: 'reach map, Lanternquay, full build at 0.25 m', measured: built.ms, unit: 'ms' })
}

/** The same map with another thread to build tiles, as the page has one. */
async function benchThreads(level: Level, columns: number, aloneMs: number): Promise<void> {
  // Twice over, with another body between so that nothing is kept: at first the other thread is only just there.
  const wider = { ...level.profiles.pf_warden, radiusM: 0.36 }
  const other = { ...level, profiles: { ...level.profiles, pf_warden: wider } }
  const times = await surveyedByTwo([level, other, level, other, level], 'pf_warden')
  const ms = Math.min(times[2], times[4])
  report({
    what: 'the same with two threads, columns a second',
    measured: columns / (ms / 1000),
    unit: 'columns/s',
    budget: 1.5e6,
    less: false,
    reference: `${(ms / 1000).toFixed(2)} s; one thread ${(aloneMs / 1000).toFixed(2)} s`,
  })
}

/** Paths from one side of the square kilometre to the other; the map is warm, as it is while somebody edits. */
function benchPaths(map: ReachMap, rings: ReturnType<typeof strewnObstacles>): void {
  const finder = new PathFinder(map)
  const next = chance(5)
  const ends = Array.from(
    { length: 600 },
    () =>
      [
        [2 + next() * 8, 5 + next() * (SIDE - 10), 0] as const,
        [SIDE - 10 + next() * 8, 5 + next() * (SIDE - 10), 0] as const,
      ] as const,
  )
  const cold = timed(() => finder.find(...ends[0])).ms
  for (const [a, b] of ends) finder.find(a, b)
  const times: number[] = []
  let found = 0
  for (const [a, b] of ends) {
    const { ms, value } = timed(() => finder.find(a, b))
    if (value.found) found++
    times.push(ms)
  }
  report({
    what: `path 1 km across, median of ${found}`,
    measured: quantile(times, 0.5),
    unit: 'ms',
    budget: 1,
    reference: `95th ${quantile(times, 0.95).toFixed(2)} ms; first ever ${cold.toFixed(0)} ms; ${rings.length} solids`,
  })
}

function benchQuality(): void {
  const ratios: number[] = []
  for (const seed of [21, 22, 23]) {
    const rings = strewnObstacles(120, 22, seed, 1.2)
    const map = buildReach(reachSource(sceneLevel(120, 120, prisms(rings)), 'pf_warden'))
    const finder = new PathFinder(map)
    const grown = rings.map((r) => grownRing(r, 0.35, 3))
    const next = chance(seed)
    for (let k = 0; k < 10; k++) {
      const a = [1 + next() * 118, 1 + next() * 20, 0] as const
      const b = [1 + next() * 118, 99 + next() * 20, 0] as const
      const path = finder.find(a, b)
      const exact = exactShortest([a[0], a[1]], [b[0], b[1]], grown)
      if (path.found && exact < Infinity) ratios.push(path.lengthM / exact)
    }
  }
  const mean = ratios.reduce((s, r) => s + r, 0) / ratios.length
  report({
    what: 'path length over the exact shortest, mean',
    measured: mean,
    unit: '×',
    budget: 1.01,
    reference: `${ratios.length} paths; visibility graph`,
  })
  report({ what: 'path length over the exact shortest, worst', measured: Math.max(...ratios), unit: '×', budget: 1.04 })
}
