import {
  levelSchema,
  PRESETS,
  type BriefStep,
  type BriefWhen,
  type Level,
  type LevelInput,
} from '@tidytrail/core/level'
import type { Run } from '@tidytrail/core/rehearsal'
import { framesOf, type Row } from './rehearsed'
import { sceneLevel } from './scenes'

/** A brief of steps one after the other, and of standing sentences with steps of their own. */
export function briefOf(
  steps: readonly BriefStep[],
  whens: readonly { readonly when: BriefWhen; readonly steps: readonly BriefStep[] }[] = [],
): NonNullable<LevelInput['briefs']>[string] {
  const all: [string, BriefStep][] = steps.map((s, k) => [`bs_${k}`, s])
  whens.forEach(({ when, steps: own }, w) =>
    own.forEach((s, k) => all.push([`bs_${w}w${k}`, { ...s, whenId: when.id } as BriefStep])),
  )
  return {
    name: 'Brief',
    steps: Object.fromEntries(all),
    order: all.map(([id]) => id),
    whens: whens.map((w) => w.when),
  }
}

const ring = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
]

/** Flat ground of 80 × 60 m with two hostile factions, two yards, posts in the western one, and two routes. */
export function castLevel(more: Partial<LevelInput>, solids: Parameters<typeof sceneLevel>[2] = {}): Level {
  const route = (name: string, ...at: string[]) => ({
    name,
    travel: 'round' as const,
    stops: Object.fromEntries(at.map((w, k) => [`st_${k}`, { waypointId: w }])),
    order: at.map((_, k) => `st_${k}`),
  })
  const blank = sceneLevel(80, 60, solids)
  return levelSchema.parse({
    ...blank,
    profiles: {
      ...blank.profiles,
      pf_cart: PRESETS.find((p) => p.name === 'Tide-cart'),
    },
    factions: {
      fc_w: { name: 'Watch', hostileTo: ['fc_n'] },
      fc_n: { name: 'Night' },
      fc_f: { name: 'Friends', friendlyTo: ['fc_w'] },
    },
    waypoints: {
      wp_a: { at: [10, 10, 0] },
      wp_b: { at: [20, 10, 0] },
      wp_c: { at: [20, 20, 0] },
      wp_d: { at: [50, 40, 0] },
      wp_e: { at: [70, 40, 0] },
      wp_f: { at: [70, 55, 0] },
    },
    routes: { rt_a: route('West', 'wp_a', 'wp_b', 'wp_c'), rt_b: route('East', 'wp_d', 'wp_e', 'wp_f') },
    zones: {
      zn_w: { name: 'West yard', ring: ring(5, 5, 25, 25) },
      zn_e: { name: 'East yard', ring: ring(50, 35, 75, 57) },
    },
    markers: { mk_a: { name: 'Bell', at: [40, 30, 0] } },
    ...more,
  } as LevelInput)
}

/** Frames of a run as the rows of those a spawner sent. */
export function rowsOfSpawner(run: Run, spawnerId: string): Row[][] {
  const keys = new Set(run.engine.members.filter((m) => m.spawnerId === spawnerId).map((m) => m.key))
  return framesOf(run).map((rows) => rows.filter((r) => keys.has(r.key)))
}

/** A spawner of wardens at a place. */
export const at = (x: number, y: number, more: object = {}) => ({
  name: 'Gate',
  at: [x, y, 0] as [number, number, number],
  profileId: 'pf_warden',
  ...more,
})
