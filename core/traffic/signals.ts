import type { Junction, Phase } from '@tidytrail/core/level'

export type Light = 'green' | 'amber' | 'red'

type Plan = Pick<Junction, 'phases' | 'offsetS'>

/** How long a stage and what follows it take, seconds. */
export const phaseS = ({ greenS, amberS, allRedS }: Phase): number => greenS + amberS + allRedS

/** How long all stages take together, seconds. */
export const cycleS = ({ phases }: Plan): number => phases.reduce((sum, p) => sum + phaseS(p), 0)

/** The stage a plan is in at a time, and how long it has been; undefined for a plan without a cycle. */
export function stageAt(plan: Plan, t: number): { readonly index: number; readonly sinceS: number } | undefined {
  const cycle = cycleS(plan)
  if (!(cycle > 0)) return undefined
  let left = (t - plan.offsetS) % cycle
  if (left < 0) left += cycle
  for (let index = 0; index < plan.phases.length; index++) {
    const s = phaseS(plan.phases[index])
    if (left < s) return { index, sinceS: left }
    left -= s
  }
  return { index: plan.phases.length - 1, sinceS: phaseS(plan.phases[plan.phases.length - 1]) }
}

/** Does a way, or a lane that is walked along over a crossing, have green in a stage? */
export const lightsUp = (phase: Phase, id: string): boolean => phase.linkIds.includes(id) || phase.laneIds.includes(id)

/**
 * What a way sees at a time. One that goes on with green in the next stage keeps it in between. A plan without a cycle
 * shows red to all.
 */
export function lightAt(plan: Plan, id: string, t: number): Light {
  const stage = stageAt(plan, t)
  if (!stage) return 'red'
  const phase = plan.phases[stage.index]
  if (!lightsUp(phase, id)) return 'red'
  if (stage.sinceS < phase.greenS) return 'green'
  const next = plan.phases[(stage.index + 1) % plan.phases.length]
  if (lightsUp(next, id)) return 'green'
  return stage.sinceS < phase.greenS + phase.amberS ? 'amber' : 'red'
}

/** When the light of a way next becomes green, seconds from a time on; 0 when it is, Infinity when it never is. */
export function untilGreenS(plan: Plan, id: string, t: number): number {
  const stage = stageAt(plan, t)
  if (!stage || !plan.phases.some((p) => lightsUp(p, id) && p.greenS > 0)) return Infinity
  if (lightAt(plan, id, t) === 'green') return 0
  let s = phaseS(plan.phases[stage.index]) - stage.sinceS
  for (let k = 1; k <= plan.phases.length; k++) {
    const phase = plan.phases[(stage.index + k) % plan.phases.length]
    if (lightsUp(phase, id) && phase.greenS > 0) return s
    s += phaseS(phase)
  }
  return Infinity
}

/**
 * How long it takes until another stage begins than those in which a way has green now, seconds from a time on: what lies
 * between counts. 0 where it is not green, Infinity where it always is.
 */
export function untilNextS(plan: Plan, id: string, t: number): number {
  const stage = stageAt(plan, t)
  if (!stage || lightAt(plan, id, t) !== 'green') return 0
  let s = phaseS(plan.phases[stage.index]) - stage.sinceS
  for (let k = 1; k < plan.phases.length; k++) {
    const phase = plan.phases[(stage.index + k) % plan.phases.length]
    if (!lightsUp(phase, id)) return s
    s += phaseS(phase)
  }
  return Infinity
}

/** How long a way has green and what follows it at a stretch, at most, seconds; Infinity where it is never anything else. */
export function longestS(plan: Plan, id: string): number {
  const { phases } = plan
  if (phases.length > 0 && phases.every((p) => lightsUp(p, id))) return Infinity
  let [most, run] = [0, 0]
  // Twice round: what goes on from the last stage into the first is one stretch.
  for (const phase of [...phases, ...phases]) {
    run = lightsUp(phase, id) && (run > 0 || phase.greenS > 0) ? run + phaseS(phase) : 0
    most = Math.max(most, run)
  }
  return most
}

/** One that is to be served by a plan: in which stage, and how much comes. */
export interface Demand {
  readonly phase: number
  /** Vehicles an hour in the fullest lane of it, and what that lane could let through without signals. */
  readonly flowPerH: number
  readonly saturationPerH: number
}

export interface SuggestedPlan {
  readonly cycleS: number
  /** Green of each stage. */
  readonly greenS: readonly number[]
  /** Share of what could be let through that comes; at 1 no cycle is long enough. */
  readonly load: number
}

/** Shorter and longer cycles are not suggested, seconds; nor a shorter green. */
const SHORTEST_S = 30
const LONGEST_S = 120
const LEAST_GREEN_S = 5

/**
 * The cycle with least delay, and its greens in proportion to the flows (Webster 1958): C = (1.5 L + 5) / (1 − Y), Y the
 * sum over the stages of the greatest flow ratio, L the time lost in a cycle.
 * @param lostS time lost in each stage: what lies between it and the next, and starting up
 */
export function websterPlan(demands: readonly Demand[], lostS: readonly number[]): SuggestedPlan {
  const ratios = lostS.map((_, k) =>
    demands.reduce((most, d) => (d.phase === k ? Math.max(most, d.flowPerH / d.saturationPerH) : most), 0),
  )
  const load = ratios.reduce((a, b) => a + b, 0)
  const lost = lostS.reduce((a, b) => a + b, 0)
  const wanted = load < 1 ? (1.5 * lost + 5) / (1 - load) : LONGEST_S
  const cycle = Math.min(LONGEST_S, Math.max(SHORTEST_S, wanted))
  const green = Math.max(0, cycle - lost)
  const greenS = ratios.map((y) => Math.max(LEAST_GREEN_S, load > 0 ? (green * y) / load : green / ratios.length))
  return { cycleS: greenS.reduce((a, b) => a + b, 0) + lost, greenS, load }
}

/**
 * Mean uniform delay at a fixed-time signal, seconds a vehicle (Webster 1958, first term):
 * c (1 − λ)² / (2 (1 − λ x)), λ the share of green, x the degree of saturation, held to 1.
 */
export function uniformDelayS(cycle: number, greenS: number, flowPerH: number, saturationPerH: number): number {
  const share = greenS / cycle
  const x = Math.min(1, flowPerH / (share * saturationPerH))
  return (cycle * (1 - share) ** 2) / (2 * (1 - share * x))
}
