import { levelSchema, type LevelInput } from '@tidytrail/core/level'
import { chance, sceneLevel } from '@tidytrail/core/testing'
import { expect, it } from 'vitest'
import { buildReach, PathFinder, reachSource } from '.'

/**
 * Floors above one another: what the search over the reach map finds, held against a fine search over the same floors by
 * code that knows nothing of columns, pulled tight.
 */
type Segment = readonly [number, number, number, number]
type Solids = NonNullable<LevelInput['solids']>
interface Layer {
  /** Is a place on this floor? */
  holds(x: number, y: number): boolean
  /** What the middle of a body keeps its radius from. */
  readonly lines: readonly Segment[]
  /** Floors it goes over into, by number. */
  readonly to: readonly number[]
}

const RADIUS_M = 0.35
const STEP_M = 0.4
const SIDE_M = 16
const FINE_M = 0.1

function farFrom(x: number, y: number, lines: readonly Segment[]): number {
  let best = Infinity
  for (const [ax, ay, bx, by] of lines) {
    const l2 = (bx - ax) ** 2 + (by - ay) ** 2
    const t = l2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / l2))
    best = Math.min(best, (x - ax - t * (bx - ax)) ** 2 + (y - ay - t * (by - ay)) ** 2)
  }
  return Math.sqrt(best)
}
const ringOf = (x0: number, y0: number, x1: number, y1: number): Segment[] => [
  [x0, y0, x1, y0],
  [x1, y0, x1, y1],
  [x1, y1, x0, y1],
  [x0, y1, x0, y0],
]

/** Decks above one another, each reached by a ramp at its east edge from the one below, with walls strewn over all. */
function storeys(count: number, seed: number) {
  const next = chance(seed)
  const solids: Solids = {}
  const layers: Layer[] = []
  const riseM = 2.5
  const runM = 4
  const edges = [SIDE_M, 10.5, 5][Symbol.iterator]()
  let eastM = edges.next().value as number
  let floorM = 0
  let lines: Segment[] = ringOf(0, 0, SIDE_M, SIDE_M)
  const strew = (n: number, from: number, to: number) => {
    for (let k = 0; k < n; k++) {
      const [w, d] = [0.2 + next() * 1.5, 0.2 + next() * 3]
      const [x0, y0] = [from + next() * Math.max(0.1, to - from - w), next() * (SIDE_M - d)]
      solids[`sd_w${Object.keys(solids).length}`] = {
        shape: 'box',
        name: 'Wall',
        at: [x0 + w / 2, y0 + d / 2],
        sizeX: w,
        sizeY: d,
        baseM: floorM,
        heightM: 2,
      }
      lines.push(...ringOf(x0, y0, x0 + w, y0 + d))
    }
  }
  for (let k = 1; k < count; k++) {
    const deckEastM = edges.next().value as number
    const wide = 1.6 + next()
    const south = 2 + next() * (SIDE_M - 4 - wide)
    const north = south + wide
    const foot = deckEastM + runM
    solids[`sd_d${k}`] = {
      shape: 'box',
      name: `Deck ${k}`,
      at: [deckEastM / 2, SIDE_M / 2],
      sizeX: deckEastM,
      sizeY: SIDE_M,
      baseM: floorM + riseM - 0.2,
      heightM: 0.2,
      walkable: true,
    }
    solids[`sd_r${k}`] = {
      shape: 'ramp',
      name: `Ramp ${k}`,
      at: [deckEastM + runM / 2, (south + north) / 2],
      sizeX: runM,
      sizeY: wide,
      turnRad: Math.PI,
      baseM: floorM,
      heightM: riseM,
      walkable: true,
    }
    // Its sides are in the way where they are higher than a step; below that one steps on and off.
    const high = foot - (STEP_M / riseM) * runM
    const sides: Segment[] = [
      [deckEastM, south, high, south],
      [deckEastM, north, high, north],
    ]
    // Walls stand clear of the ramps and of where these begin.
    strew(4, foot + 1, eastM)
    const below = layers.length
    const [x1, y0, y1] = [eastM, south, north]
    layers.push(
      {
        holds: (x, y) => x <= x1 && !(x > deckEastM && x < foot && y > y0 && y < y1),
        lines: [...lines, ...sides, [deckEastM, south, deckEastM, north]],
        to: [below + 1, ...(below > 0 ? [below - 1] : [])],
      },
      {
        holds: (x, y) => x >= deckEastM && x <= foot && y >= y0 && y <= y1,
        lines: sides,
        to: [below, below + 2],
      },
    )
    floorM += riseM
    eastM = deckEastM
    lines = [
      [0, 0, 0, SIDE_M],
      [0, 0, eastM, 0],
      [0, SIDE_M, eastM, SIDE_M],
      [eastM, 0, eastM, south],
      [eastM, north, eastM, SIDE_M],
    ]
  }
  strew(3, 0, eastM - 1.5)
  const x1 = eastM
  layers.push({ holds: (x) => x <= x1, lines, to: [layers.length - 1] })
  return { solids, layers, topM: floorM }
}

type Node = readonly [layer: number, x: number, y: number]

/** Which floor one is on after a small move; −1 where it may not be made. */
function moved(layers: readonly Layer[], layer: number, x: number, y: number, radiusM: number): number {
  // A floor goes over into a ramp where that begins, so the ramp is asked first.
  const order = layer % 2 === 1 ? [layer, ...layers[layer].to] : [...layers[layer].to, layer]
  for (const k of order) if (layers[k].holds(x, y) && farFrom(x, y, layers[k].lines) >= radiusM) return k
  return -1
}

/** Is a straight walk free all the way? Then the floor it ends on. */
function straight(layers: readonly Layer[], [layer, ax, ay]: Node, bx: number, by: number): number {
  const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / 0.02))
  let now = layer
  for (let k = 1; k <= steps && now >= 0; k++)
    now = moved(layers, now, ax + ((bx - ax) * k) / steps, ay + ((by - ay) * k) / steps, RADIUS_M - 0.004)
  return now
}

/** The shortest way over a fine grid, pulled tight; its length on the map, or undefined when there is none. */
function fineWay(layers: readonly Layer[], from: Node, to: Node): number | undefined {
  const n = Math.round(SIDE_M / FINE_M) + 1
  const key = (layer: number, i: number, j: number) => (layer * n + j) * n + i
  const start = key(from[0], Math.round(from[1] / FINE_M), Math.round(from[2] / FINE_M))
  const goal = key(to[0], Math.round(to[1] / FINE_M), Math.round(to[2] / FINE_M))
  const best = new Map<number, number>([[start, 0]])
  const came = new Map<number, number>()
  const done = new Set<number>()
  // Buckets of a tenth of a step: a queue that is plain and quick enough.
  const buckets: number[][] = [[start]]
  for (let b = 0; b < buckets.length; b++) {
    for (const at of buckets[b] ?? []) {
      if (done.has(at)) continue
      done.add(at)
      if (at === goal) b = buckets.length
      const i = at % n
      const j = Math.floor(at / n) % n
      const layer = Math.floor(at / (n * n))
      for (let dj = -2; dj <= 2; dj++)
        for (let di = -2; di <= 2; di++) {
          if ((di === 0 && dj === 0) || i + di < 0 || j + dj < 0 || i + di >= n || j + dj >= n) continue
          if (Math.abs(di) % 2 === 0 && Math.abs(dj) % 2 === 0) continue
          const [x, y] = [(i + di) * FINE_M, (j + dj) * FINE_M]
          const half = moved(layers, layer, (i + di / 2) * FINE_M, (j + dj / 2) * FINE_M, RADIUS_M - 0.004)
          const on = half < 0 ? -1 : moved(layers, half, x, y, RADIUS_M - 0.004)
          if (on < 0) continue
          const there = key(on, i + di, j + dj)
          const cost = best.get(at)! + Math.hypot(di, dj)
          if (cost >= (best.get(there) ?? Infinity)) continue
          best.set(there, cost)
          came.set(there, at)
          const bucket = Math.max(b, Math.floor(cost * 10))
          ;(buckets[bucket] ??= []).push(there)
        }
    }
  }
  if (!best.has(goal)) return undefined
  let line: Node[] = []
  for (let at: number | undefined = goal; at !== undefined; at = came.get(at))
    line.unshift([Math.floor(at / (n * n)), (at % n) * FINE_M, (Math.floor(at / n) % n) * FINE_M])
  line[0] = from
  line[line.length - 1] = to
  // Pulled tight: corners are left out, and moved a little, while that makes it shorter and keeps it free.
  for (let round = 0; round < 60; round++) {
    const before = lengthOf(line)
    const kept: Node[] = [line[0]]
    for (let k = 0; k < line.length - 1;) {
      let to = Math.min(line.length - 1, k + (round === 0 ? 400 : 6))
      while (to > k + 1 && straight(layers, line[k], line[to][1], line[to][2]) !== line[to][0]) to--
      kept.push(line[to])
      k = to
    }
    line = kept
    const stepM = 0.05 / (1 + round / 4)
    for (let k = 1; k + 1 < line.length; k++)
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
        [0.7, 0.7],
        [-0.7, -0.7],
        [0.7, -0.7],
        [-0.7, 0.7],
      ]) {
        const [layer, x, y] = line[k]
        const at = [x + dx * stepM, y + dy * stepM] as const
        const was =
          Math.hypot(x - line[k - 1][1], y - line[k - 1][2]) + Math.hypot(x - line[k + 1][1], y - line[k + 1][2])
        const is =
          Math.hypot(at[0] - line[k - 1][1], at[1] - line[k - 1][2]) +
          Math.hypot(at[0] - line[k + 1][1], at[1] - line[k + 1][2])
        if (is >= was || straight(layers, line[k - 1], ...at) !== layer) continue
        if (straight(layers, [layer, ...at], line[k + 1][1], line[k + 1][2]) !== line[k + 1][0]) continue
        line[k] = [layer, ...at]
      }
    if (round > 8 && before - lengthOf(line) < 1e-5) break
  }
  return lengthOf(line)
}
const lengthOf = (line: readonly Node[]) =>
  line.reduce((sum, p, k) => (k === 0 ? 0 : sum + Math.hypot(p[1] - line[k - 1][1], p[2] - line[k - 1][2])), 0)

/** Scenes of each kind; the fine search takes seconds for each. */
const SCENES = Number(process.env.TIDYTRAIL_FLOOR_SCENES ?? 4)
const COLUMNS_M = [0.25, 0.5]

it.each([2, 3])('ways over %i floors are found where there are any, as short as they can be', (count) => {
  const shares = COLUMNS_M.map((): number[] => [])
  for (let seed = 1; seed <= SCENES; seed++) {
    const { solids, layers, topM } = storeys(count, seed * 31 + count)
    const next = chance(seed)
    const place = (layer: number, x0: number, x1: number): Node => {
      for (;;) {
        const round = (v: number) => Math.round(v / FINE_M) * FINE_M
        const [x, y] = [round(x0 + next() * (x1 - x0)), round(1 + next() * (SIDE_M - 2))]
        if (layers[layer].holds(x, y) && farFrom(x, y, layers[layer].lines) > RADIUS_M) return [layer, x, y]
      }
    }
    const from = place(0, 1, SIDE_M - 1)
    const to = place(layers.length - 1, 0.5, count === 3 ? 4 : 9)
    const expected = fineWay(layers, from, to)
    COLUMNS_M.forEach((cellM, k) => {
      const scene = sceneLevel(SIDE_M, SIDE_M, solids, { settings: { cellM } as never })
      const map = buildReach(reachSource(levelSchema.parse(scene), 'pf_warden'))
      const path = new PathFinder(map).find([from[1], from[2], 0], [to[1], to[2], topM])
      expect(path.found, `scene ${seed}, columns of ${cellM} m`).toBe(expected !== undefined)
      if (!path.found || expected === undefined) return
      const line = path.line.map(([x, y]): Node => [0, x, y])
      shares[k].push(lengthOf(line) / expected)
    })
  }
  shares.forEach((list, k) => {
    const mean = list.reduce((a, b) => a + b, 0) / list.length
    console.info(
      `${count} floors, ${COLUMNS_M[k]} m columns: ${list.length} ways in ${SCENES} scenes, ${mean.toFixed(4)} of the fine search on average, ${Math.max(...list).toFixed(4)} at worst`,
    )
    expect(list.length).toBeGreaterThan(SCENES / 2)
    expect(mean).toBeLessThan(1.01)
    expect(Math.max(...list)).toBeLessThan(1.02)
    // The fine search is a little longer than the shortest there is, and no way is shorter than that.
    expect(Math.min(...list)).toBeGreaterThan(0.985)
  })
})
