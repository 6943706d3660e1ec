import { sendsFromSpot, type Level } from '@tidytrail/core/level'

/** As wide as the widest two bodies together that are looked for: of wider ones those nearer than this are found. */
const SQUARE_M = 8

type Squares = ReadonlyMap<string, readonly string[]>
const known = new WeakMap<Level['spawners'], Squares>()

const key = (x: number, y: number) => `${Math.floor(x / SQUARE_M)} ${Math.floor(y / SQUARE_M)}`

/** Spawners by the squares their spots lie in, once for each state of a level. */
function squaresOf(spawners: Level['spawners']): Squares {
  let squares = known.get(spawners) as Map<string, string[]> | undefined
  if (squares) return squares
  squares = new Map()
  for (const [id, spawner] of Object.entries(spawners)) {
    if (!sendsFromSpot(spawner)) continue
    const { at } = spawner
    const square = key(at[0], at[1])
    const list = squares.get(square)
    if (list) list.push(id)
    else squares.set(square, [id])
  }
  known.set(spawners, squares)
  return squares
}

/** Other spawners whose spots lie within eight metres of one's, sorted by id. */
export function spawnersBeside(spawners: Level['spawners'], id: string): string[] {
  const { at } = spawners[id]
  if (!sendsFromSpot(spawners[id])) return []
  const squares = squaresOf(spawners)
  const near: string[] = []
  for (let i = -1; i <= 1; i++)
    for (let j = -1; j <= 1; j++)
      for (const other of squares.get(key(at[0] + i * SQUARE_M, at[1] + j * SQUARE_M)) ?? []) {
        const [x, y] = spawners[other].at
        if (other !== id && (x - at[0]) ** 2 + (y - at[1]) ** 2 < SQUARE_M * SQUARE_M) near.push(other)
      }
  return near.sort()
}
