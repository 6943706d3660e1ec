import type { Point2 } from '@tidytrail/core/geometry'
import { blankLevel, levelSchema, type Level, type LevelInput, type Solid } from '@tidytrail/core/level'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'

/** A seeded source of numbers in [0, 1). */
export function chance(seed: number): () => number {
  const generator = xoroshiro128plus(seed)
  return () => (generator.next() >>> 0) / 0x100000000
}

type SolidInput = NonNullable<LevelInput['solids']>[string]

/** A level on flat ground with the given solids, and a warden as `pf_warden`. */
export function sceneLevel(
  sizeX: number,
  sizeY: number,
  solids: Record<string, SolidInput>,
  more: Partial<LevelInput> = {},
): Level {
  const blank = blankLevel('Scene', sizeX, sizeY)
  return levelSchema.parse({ ...blank, ...more, settings: { ...blank.settings, ...more.settings }, solids })
}

export const box = (
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  heightM = 3,
  more: Partial<Extract<SolidInput, { shape: 'box' }>> = {},
): SolidInput => ({
  shape: 'box',
  name: '',
  at: [(x0 + x1) / 2, (y0 + y1) / 2],
  sizeX: x1 - x0,
  sizeY: y1 - y0,
  baseM: 0,
  heightM,
  ...more,
})

/** Convex obstacles strewn over a square, none meeting another once grown by the margin. */
export function strewnObstacles(sideM: number, count: number, seed: number, marginM = 1): Point2[][] {
  const next = chance(seed)
  const taken: { x: number; y: number; r: number }[] = []
  const rings: Point2[][] = []
  for (let tries = 0; rings.length < count && tries < count * 50; tries++) {
    const r = 3 + next() * 9
    const x = r + 2 + next() * (sideM - 2 * r - 4)
    const y = r + 2 + next() * (sideM - 2 * r - 4)
    if (taken.some((t) => Math.hypot(t.x - x, t.y - y) < t.r + r + 2 * marginM)) continue
    taken.push({ x, y, r })
    const corners = 3 + Math.floor(next() * 4)
    const turn = next() * Math.PI * 2
    rings.push(
      Array.from({ length: corners }, (_, k): Point2 => {
        const a = turn + ((k + 0.6 * next()) * 2 * Math.PI) / corners
        return [x + Math.cos(a) * r, y + Math.sin(a) * r]
      }),
    )
  }
  return rings
}

export function prisms(rings: readonly (readonly Point2[])[]): Record<string, Solid> {
  return Object.fromEntries(
    rings.map((ring, k): [string, Solid] => [
      `sd_p${k}`,
      {
        shape: 'prism',
        ring: ring.map(([x, y]) => [x, y]),
        name: `Block ${k}`,
        baseM: 0,
        heightM: 4,
        walkable: false,
        blocksSight: true,
        note: '',
        tags: [],
        locked: false,
        hidden: false,
      },
    ]),
  )
}
