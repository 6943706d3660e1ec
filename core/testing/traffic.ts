import { levelSchema, PRESETS, type Level, type LevelInput, type Profile, type Spawner } from '@tidytrail/core/level'
import { laneNet, usualYields } from '@tidytrail/core/traffic'
import { FRAME_FIELDS, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'

/** A vehicle of the streams of these tests. */
export const WAGON: Profile = {
  ...PRESETS.find((p) => p.name === 'Tide-cart')!,
  name: 'Wagon',
  radiusM: 1,
  gaits: { drive: 10 },
  gait: 'drive',
  accelMps2: 1.7,
  brakeMps2: 5,
  gripMps2: 4,
  turnM: 3,
}

/** Walks about without end on the lanes with the tag *pavement*. */
export const WALK_ABOUT: NonNullable<LevelInput['briefs']> = {
  br_about: {
    name: 'About',
    steps: { bs_a: { kind: 'stroll', tag: 'pavement', pause: { minS: 0, maxS: 0 } } },
    order: ['bs_a'],
  },
}

/** A level with a stream onto every lane that nothing leads into, or onto those named. */
export function withStreams(level: Level, stream: Partial<Spawner> = {}, profile: Partial<Profile> = {}): Level {
  const net = laneNet(level)
  const sources = [...net.lanes.keys()].filter((id) => !net.into.has(id))
  const raw = {
    name: 'Stream',
    at: [0, 0, 0],
    profileId: 'pf_w',
    where: 'lanes',
    laneIds: sources,
    ...stream,
  }
  return levelSchema.parse({
    ...level,
    profiles: { ...level.profiles, pf_w: { ...WAGON, ...profile } },
    spawners: { ...level.spawners, sp_stream: raw },
  })
}

/** The same level with every conflict of its junctions settled the usual way. */
export function settled(level: Level): Level {
  const net = laneNet(level)
  const junctions = Object.fromEntries(
    Object.entries(level.junctions).map(([id, j]) => [id, { ...j, yields: usualYields(level, net, j) }]),
  )
  return { ...level, junctions }
}

/** Two bodies, at least one of them on wheels, that came nearer to each other than touching. */
export interface Collision {
  readonly t: number
  readonly a: number
  readonly b: number
  readonly overlapM: number
}

/**
 * Collisions in the recording of a run, from positions and profiles alone. Whoever touches is counted once for as long
 * as they touch.
 * @param touchM bodies this far into each other, metres, are in collision
 */
export function collisionsIn(run: Run, touchM = 0): Collision[] {
  const { recording, registers, scenario } = run.engine
  const wheels = registers.profiles.ids.map((id) => scenario.level.profiles[id]?.medium === 'wheels')
  const radii = registers.profiles.ids.map((id) => scenario.level.profiles[id]?.radiusM ?? 0)
  const found: Collision[] = []
  let touching = new Set<string>()
  for (let f = 0; f < recording.frameCount; f++) {
    const frame = recording.frame(f)
    const count = frame.length / FRAME_FIELDS
    const now = new Set<string>()
    const order = Array.from({ length: count }, (_, n) => n).sort((p, q) => frame[p * FRAME_FIELDS + 1] - frame[q * FRAME_FIELDS + 1]) // prettier-ignore
    order.forEach((p, i) => {
      const [px, py, pr] = [
        frame[p * FRAME_FIELDS + 1],
        frame[p * FRAME_FIELDS + 2],
        radii[frame[p * FRAME_FIELDS + 15]],
      ]
      for (let j = i + 1; j < order.length; j++) {
        const q = order[j]
        const dx = (frame[q * FRAME_FIELDS + 1] - px) / 1000
        if (dx > 5) break
        const dy = (frame[q * FRAME_FIELDS + 2] - py) / 1000
        const apart = pr + radii[frame[q * FRAME_FIELDS + 15]]
        const overlapM = apart - Math.sqrt(dx * dx + dy * dy)
        if (overlapM <= touchM || !(wheels[frame[p * FRAME_FIELDS + 15]] || wheels[frame[q * FRAME_FIELDS + 15]]))
          continue
        const [a, b] = [frame[p * FRAME_FIELDS], frame[q * FRAME_FIELDS]].sort((m, n) => m - n)
        now.add(`${a} ${b}`)
        if (!touching.has(`${a} ${b}`)) found.push({ t: f / 10, a, b, overlapM })
      }
    })
    touching = now
  }
  return found
}

const surveys = new Map<string, Survey>()

/** A level rehearsed for so long, over a survey that knows the ground where another level on the same has been driven on. */
export function driven(level: Level, seconds: number, seed = 1): Run {
  const { profiles, solids, settings, zones } = level
  const key = JSON.stringify([profiles, solids, settings, zones])
  const known = surveys.get(key)
  const survey = known ?? new Survey()
  if (!known) survey.update(level)
  surveys.set(key, survey)
  const run = new Run(level, seed, survey)
  run.runTo(seconds)
  return run
}
