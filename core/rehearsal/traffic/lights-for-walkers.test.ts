import { describe, expect, it } from 'vitest'
import { changeThings, type Level, type Phase } from '@tidytrail/core/level'
import { busyCrossroads, collisionsIn, driven, framesOf, walkedCrossroads, type Row } from '@tidytrail/core/testing'

const [MIDDLE, STEP_S, SECONDS] = [200, 0.1, 400]
/** Of the crossings from the middle of the crossroads, metres: the stripe of each, and the kerbs of the lanes. */
const STRIPE = [13.5, 16.5] as const
const KERB_M = 3

/** The stage that is on, and whether it is its green, told step by step from the lengths alone. */
function stageOf(phases: readonly Phase[], t: number): { phase: Phase; green: boolean } {
  const cycle = phases.reduce((sum, p) => sum + p.greenS + p.amberS + p.allRedS, 0)
  let s = t % cycle
  for (const phase of phases) {
    const whole = phase.greenS + phase.amberS + phase.allRedS
    if (s < whole) return { phase, green: s < phase.greenS }
    s -= whole
  }
  throw new Error('no stage')
}

/** On which crossing of the four somebody is, by places alone; undefined for none. */
function crossingUnder({ x, y }: Row): string | undefined {
  const [dx, dy] = [x - MIDDLE, y - MIDDLE]
  const within = (along: number, across: number) => Math.abs(along) > STRIPE[0] - 1 && Math.abs(along) < STRIPE[1] + 1 && Math.abs(across) < KERB_M // prettier-ignore
  if (within(dx, dy)) return dx > 0 ? 'rt_xe' : 'rt_xw'
  if (within(dy, dx)) return dy > 0 ? 'rt_xn' : 'rt_xs'
  return undefined
}

/** Is somebody in a lane that leads to the middle? */
function comesIn({ x, y }: Row, side: 'left' | 'right'): boolean {
  const [dx, dy] = [x - MIDDLE, y - MIDDLE]
  // Coming from the east, one keeps to the south of the middle where one drives on the left.
  const [out, aside] = Math.abs(dx) > Math.abs(dy) ? [dx, dy] : [dy, -dx]
  return Math.abs(out) > 11 && Math.abs(aside) < KERB_M && Math.sign(out * aside) === (side === 'left' ? -1 : 1)
}

interface Told {
  /** Times at which somebody stepped onto a crossing, and which. */
  readonly steps: { t: number; on: string }[]
  /** Seconds that vehicles stood on the way in: before a crossing, and on it or beyond it. */
  readonly stood: { readonly beforeS: number; readonly onS: number }
  readonly vehicles: number
  readonly run: ReturnType<typeof driven>
}
function toldBy(level: Level, perH = 300): Told {
  const run = driven(busyCrossroads(level, perH, 2), SECONDS)
  const walks = new Set(run.engine.members.filter((m) => m.profileId === 'pf_on').map((m) => m.key))
  const before = new Map<number, string | undefined>()
  const steps: Told['steps'] = []
  const stood = { beforeS: 0, onS: 0 }
  framesOf(run).forEach((rows, k) => {
    for (const row of rows) {
      const on = crossingUnder(row)
      if (walks.has(row.key)) {
        if (on && !before.get(row.key)) steps.push({ t: k * STEP_S, on })
        before.set(row.key, on)
        continue
      }
      if (row.speed > 0.05 || !comesIn(row, level.settings.drivesOn)) continue
      const [far, r] = [Math.max(Math.abs(row.x - MIDDLE), Math.abs(row.y - MIDDLE)), 1]
      if (far - r >= STRIPE[1]) stood.beforeS += STEP_S
      else stood.onS += STEP_S
    }
  })
  return { steps, stood, vehicles: run.engine.members.filter((m) => !walks.has(m.key)).length, run }
}

const phasesOf = (level: Level) => level.junctions.jn_0.phases
/** Those who stepped off the kerb otherwise than with their green; they take a moment from there to the lane. */
const atRed = (level: Level, { steps }: Told) =>
  steps.filter(({ t, on }) =>
    [t, t - 1].every((s) => {
      const { phase, green } = stageOf(phasesOf(level), s)
      return !green || !phase.laneIds.includes(on)
    }),
  )
const withPhases = (level: Level, phases: Phase[]) =>
  changeThings.apply(level, { in: 'junctions', changes: { jn_0: { phases } } }).level

describe.each(['left', 'right'] as const)('a signalled crossroads with crossings, driven on the %s', (side) => {
  const level = walkedCrossroads(side)
  const told = toldBy(level)

  it('is crossed by those who walk with their green alone', () => {
    expect(told.steps.length).toBeGreaterThan(60)
    expect(new Set(told.steps.map((s) => s.on)).size).toBe(4)
    // A crowd at the kerb pushes somebody off it now and then.
    expect(atRed(level, told).length / told.steps.length).toBeLessThan(0.1)
  })

  it('sees no collision, and leaves nobody stuck', () => {
    expect(collisionsIn(told.run)).toEqual([])
    expect(told.run.engine.events.list.filter((e) => e.kind === 'stuck')).toEqual([])
    expect(told.vehicles).toBeGreaterThan(100)
  })

  it('has vehicles wait at red before the crossing, not on it', () => {
    expect(told.stood.beforeS).toBeGreaterThan(300)
    expect(told.stood.onS / told.stood.beforeS).toBeLessThan(0.1)
  })
})

it('without lights for them they cross whenever vehicles let them', () => {
  const lit = walkedCrossroads()
  const phases = phasesOf(lit).map((p) => ({ ...p, laneIds: [] }))
  const told = toldBy(withPhases(lit, phases))
  expect(atRed(lit, told).length / told.steps.length).toBeGreaterThan(0.3)
  // Vehicles go up to the middle then, over the crossings.
  expect(told.stood.onS).toBeGreaterThan(0.2 * told.stood.beforeS)
})

it('with green too short to get over they set out as it begins, and are waited for', () => {
  const lit = walkedCrossroads()
  const brief = phasesOf(lit).map((p) => ({ ...p, greenS: 3, amberS: 1, allRedS: 0 }))
  const level = withPhases(lit, brief)
  const told = toldBy(level, 60)
  expect(told.steps.length).toBeGreaterThan(20)
  expect(collisionsIn(told.run)).toEqual([])
})

it('where those who walk wait for vehicles they do so with green as well', () => {
  const told = toldBy(walkedCrossroads('left', { atCrossings: 'walkers' }))
  expect(told.steps.length).toBeGreaterThan(20)
  expect(collisionsIn(told.run)).toEqual([])
})
