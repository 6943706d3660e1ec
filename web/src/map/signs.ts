/** Signs of findings: what lies so near that signs would cover one another shares one. */
import type { Finding } from '@tidytrail/core/checks'

/** Signs whose places are nearer to each other than this are one, pixels. */
export const APART_PX = 32

/** A sign stands at the place of the first of its findings, which is the gravest. */
export interface Sign {
  /** Its findings by their place in the list, the gravest first. */
  readonly members: readonly number[]
  /** Metres. */
  readonly at: readonly number[]
}

const GRAVITY = { blocker: 0, warning: 1, note: 2 }
const kept = new WeakMap<readonly Finding[], { scale: number; signs: readonly Sign[] }>()

/**
 * The signs of findings at a scale. They do not depend on which part of the map is seen, so that none changes while
 * it is moved.
 * @param scale pixels a metre
 */
export function signsOf(findings: readonly Finding[], scale: number): readonly Sign[] {
  const known = kept.get(findings)
  if (known?.scale === scale) return known.signs
  const order = findings.map((_, k) => k)
  order.sort((a, b) => GRAVITY[findings[a].severity] - GRAVITY[findings[b].severity] || a - b)
  const signs: { members: number[]; at: readonly number[] }[] = []
  /** Signs by the square they lie in. */
  const cells = new Map<number, number[]>()
  const keyOf = (i: number, j: number) => i * 4_194_304 + j
  const metres = APART_PX / scale
  for (const k of order) {
    const { at } = findings[k]
    const [i, j] = [Math.floor(at[0] / metres), Math.floor(at[1] / metres)]
    let nearest: number | undefined
    let least = metres
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++)
        for (const s of cells.get(keyOf(i + di, j + dj)) ?? []) {
          const off = Math.hypot(signs[s].at[0] - at[0], signs[s].at[1] - at[1])
          if (off < least) [nearest, least] = [s, off]
        }
    if (nearest !== undefined) signs[nearest].members.push(k)
    else {
      const cell = cells.get(keyOf(i, j))
      if (cell) cell.push(signs.length)
      else cells.set(keyOf(i, j), [signs.length])
      signs.push({ members: [k], at })
    }
  }
  kept.set(findings, { scale, signs })
  return signs
}
