import {
  addNetworkNodes,
  addRoute,
  blankLevel,
  Fold,
  movePlaces,
  plainStop,
  removeThings,
  type EditResult,
  type Level,
  type Waypoint,
} from '@tidytrail/core/level'
import { quantile, report, timed } from './measure'

const COUNT = 20_000
const DRAGGED = 2_000
const MOVES = 60
const BUDGET_MS = 8

/** A network of so many nodes, and a marker that none of them stands for. */
function network(): Level {
  const waypoints: Record<string, Waypoint> = {}
  const stops: Level['routes'][string]['stops'] = {}
  for (let k = 0; k < COUNT; k++) {
    waypoints[`wp_m${k}`] = {
      name: '',
      at: [k % 1000, Math.floor(k / 1000), 0],
      liftM: 0,
      markerId: null,
      tags: [],
    }
    stops[`st_m${k}`] = plainStop(`wp_m${k}`)
  }
  const level = addRoute.apply(blankLevel('Network', 1000, 1000), { id: 'rt_n', name: 'Net', kind: 'network' }).level
  const marker = { name: 'Bell', at: [0, 0, 0] as [number, number, number], kind: 'place', note: '', tags: [] }
  return {
    ...level,
    waypoints,
    markers: { mk_a: { ...marker, locked: false, hidden: false } },
    routes: { rt_n: { ...level.routes.rt_n, stops, order: Object.keys(stops) } },
  }
}

/** Every few rounds what an edit costs, and the plain copy of one record of as many things beside it. */
function rounds(level: Level, edit: (k: number) => EditResult) {
  const times: number[] = []
  const copies: number[] = []
  let result: EditResult | undefined
  for (let k = 0; k < MOVES; k++) {
    const { ms, value } = timed(() => edit(k))
    times.push(ms)
    result = value
    copies.push(timed(() => ({ ...level.waypoints })).ms)
  }
  return { ms: quantile(times, 0.5), copyMs: quantile(copies, 0.5), bytes: JSON.stringify(result!.patch).length }
}

/** What edits of large levels cost on the page, and how much of them is sent. */
export function benchEdits(): void {
  const level = network()
  const ids = Array.from({ length: DRAGGED }, (_, k) => `wp_m${k * 7}`)
  const fold = new Fold()
  let now = level
  const moves = Array.from({ length: MOVES }, (_, k) => Object.fromEntries(ids.map((id, i) => [id, [k, i, 0]])))
  const drag = rounds(level, (k) => {
    const places = moves[k]
    const result = movePlaces.apply(now, { places })
    now = result.level
    fold.add(result.patch, result.inverse)
    return result
  })
  const tell = (what: string, { ms, copyMs }: typeof drag) =>
    report({
      what,
      measured: ms,
      unit: 'ms',
      budget: BUDGET_MS,
      reference: `copying one record of ${COUNT.toLocaleString('en')}: ${copyMs.toFixed(1)} ms`,
    })
  tell(`one move of a drag of ${DRAGGED.toLocaleString('en')} waypoints`, drag)
  const marker = rounds(level, () => removeThings.apply(level, { ids: ['mk_a'] }))
  tell('deleting a marker beside 20,000 waypoints', marker)
  const node = rounds(level, () =>
    addNetworkNodes.apply(level, { routeId: 'rt_n', nodes: [{ stopId: 'st_n', waypointId: 'wp_n', at: [1, 2, 0] }] }),
  )
  tell('adding a stop to a network of 20,000 nodes', node)
  report({ what: 'what adding that stop sends', measured: node.bytes / 1000, unit: 'kB', budget: 2 })
  const gone = rounds(level, () => removeThings.apply(level, { ids: ['wp_m9000'] }))
  tell('deleting a node of that network', gone)
}
