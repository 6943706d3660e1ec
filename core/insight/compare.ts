import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import type { RunFigures } from './figures'

/** So far apart two runs are told from each other, metres. */
export const APART_M = 0.1

/** Where and when two rehearsals part. */
export interface Parting {
  /** The first moment at all, seconds; undefined when they are the same as far as both go. */
  readonly firstS: number | undefined
  /** When each agent that is in both parts from itself, and those in but one of them. By its id. */
  readonly agents: readonly { readonly id: string; readonly atS: number }[]
  readonly onlyA: readonly string[]
  readonly onlyB: readonly string[]
  /** Up to here both are recorded, seconds. */
  readonly untilS: number
}

/** Where two rehearsals part: agents are the same by their ids. */
export function parting(a: Recorded, b: Recorded): Parting {
  const frames = Math.min(a.frameCount, b.frameCount)
  const [idA, idB] = [a, b].map((of) => new Map(of.agents.map((g) => [g.key, g.id])))
  const both = new Set(b.agents.map((g) => g.id))
  const apart = new Map<string, number>()
  for (let k = 0; k < frames; k++) {
    const at = placesIn(a.frame(k), idA)
    const other = placesIn(b.frame(k), idB)
    for (const id of new Set([...at.keys(), ...other.keys()])) {
      if (apart.has(id)) continue
      const [p, q] = [at.get(id), other.get(id)]
      const far = !p || !q || Math.max(...p.map((v, n) => Math.abs(v - q[n]))) > APART_M * 1000
      if (far) apart.set(id, k / FRAMES_PER_SECOND)
    }
  }
  const ids = (of: Recorded) => [...new Set(of.agents.map((g) => g.id))]
  const inA = new Set(ids(a))
  const agents = [...apart].map(([id, atS]) => ({ id, atS })).sort((p, q) => p.atS - q.atS)
  return {
    firstS: agents[0]?.atS,
    agents: agents.filter(({ id }) => inA.has(id) && both.has(id)),
    onlyA: ids(a).filter((id) => !both.has(id)),
    onlyB: ids(b).filter((id) => !inA.has(id)),
    untilS: Math.max(0, frames - 1) / FRAMES_PER_SECOND,
  }
}

function placesIn(frame: Int32Array, ids: ReadonlyMap<number, string>): Map<string, [number, number, number]> {
  const places = new Map<string, [number, number, number]>()
  for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
    const id = ids.get(frame[r])
    if (id !== undefined) places.set(id, [frame[r + FIELD.x], frame[r + FIELD.y], frame[r + FIELD.z]])
  }
  return places
}

/** A figure of two rehearsals side by side. */
export interface Compared {
  readonly name: string
  readonly unit: string
  readonly a: number | undefined
  readonly b: number | undefined
  readonly difference: number | undefined
  /** How much two runs of the same level differ by chance alone in two of three cases; undefined where it is not known. */
  readonly byChance: number | undefined
}

/**
 * Figures side by side. What chance alone makes of a difference is told by runs of the same level with other seeds: the
 * difference of two draws is wider than one of them by √2.
 */
export function compareFigures(a: RunFigures, b: RunFigures, chance: readonly RunFigures[] = []): Compared[] {
  const names = [...new Set([...a.figures, ...b.figures].map((f) => f.name))]
  const valueIn = (of: RunFigures, name: string) => of.figures.find((f) => f.name === name)?.value
  return names.map((name) => {
    const [p, q] = [valueIn(a, name), valueIn(b, name)]
    const drawn = chance.flatMap((run) => valueIn(run, name) ?? [])
    return {
      name,
      unit: [...a.figures, ...b.figures].find((f) => f.name === name)!.unit,
      a: p,
      b: q,
      difference: p === undefined || q === undefined ? undefined : q - p,
      byChance: drawn.length > 1 ? Math.SQRT2 * deviation(drawn) : undefined,
    }
  })
}

/** The standard deviation of a sample. */
export function deviation(values: readonly number[]): number {
  if (values.length < 2) return 0
  const mean = values.reduce((s, v) => s + v, 0) / values.length
  return Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / (values.length - 1))
}
