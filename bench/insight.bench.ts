/** What is found out about a rehearsal: windows, coverage, a safe way, many seeds, and opening what was kept. */
import { Worker } from 'node:worker_threads'
import { canSee, terrainOf } from '@tidytrail/core/ground'
import { coverage, sneak, spotWindows } from '@tidytrail/core/insight'
import { levelSchema, sneakLineSchema, watchSpotSchema, WARDEN, type Level } from '@tidytrail/core/level'
import {
  CHUNK_FRAMES,
  FRAME_FIELDS,
  packFrames,
  PackedFrames,
  readRunFile,
  recordedOf,
  Run,
  writeRunFile,
  type Chunk,
  type Recorded,
} from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { box, madeRecording, sceneLevel, type Actor } from '@tidytrail/core/testing'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { quantile, report, timed } from './measure'

/** A yard of sheds two hundred walk round among, each on a ring of its own. */
function yard(agents: number, seconds: number): Recorded {
  const solids = Object.fromEntries(
    Array.from({ length: 60 }, (_, k) => {
      const [x, y] = [10 + (k % 10) * 20, 12 + Math.floor(k / 10) * 24]
      return [`sd_${k}`, box(x, y, x + 9, y + 6, 3)]
    }),
  )
  const level = levelSchema.parse({ ...sceneLevel(210, 160, solids), profiles: { pf_a: { ...WARDEN, sightM: 22 } } })
  const actors = Array.from({ length: agents }, (_, n): Actor => {
    const [cx, cy, r] = [14 + (n % 10) * 20, 15 + (Math.floor(n / 10) % 6) * 24, 8 + (n % 7) * 0.4]
    return {
      profileId: 'pf_a',
      pose: (t) => {
        const a = n + (1.4 * t) / r
        return { x: cx + r * Math.cos(a), y: cy + r * Math.sin(a), heading: a + Math.PI / 2, speed: 1.4 }
      },
    }
  })
  return madeRecording(level, actors, seconds)
}

export function benchWindows(): void {
  const recorded = yard(200, 300)
  const spot = watchSpotSchema.parse({ name: 'S', at: [105, 84, 0] })
  const terrain = terrainOf(recorded.level)
  // The reference: as many lines of sight as one a looker and frame, asked one by one.
  const lines = 200_000
  const { ms: sight } = timed(() => {
    let seen = 0
    for (let k = 0; k < lines; k++)
      if (canSee(terrain, (k * 7) % 200, (k * 3) % 150, 1.6, ((k * 7) % 200) + 9, ((k * 3) % 150) + 5, 1.5)) seen++
    return seen
  })
  const reference = `${Math.round(lines / sight)} lines of sight a ms`
  const found = timed(() => spotWindows(recorded, spot))
  report({ what: 'windows of a spot, 200 agents, five minutes', measured: found.ms, unit: 'ms', reference })
  const covered = timed(() => coverage(recorded))
  report({ what: 'coverage, 200 agents, five minutes, 33,600 squares', measured: covered.ms, unit: 'ms', reference })
  const line = sneakLineSchema.parse({ name: 'L', points: [[5, 9, 0], [200, 9, 0], [205, 12, 0]] }) // prettier-ignore
  const ten = yard(40, 600)
  const safe = timed(() => sneak(ten, line))
  report({
    what: `safe way of ${Math.round(safe.value.lengthM)} m over ten minutes, 40 agents`,
    measured: safe.ms,
    unit: 'ms',
    reference: `${safe.value.best ? 'there is one' : 'there is none'}`,
  })
}

/** Milliseconds in which so many threads rehearse so many seeds of a level. */
async function seedsIn(level: Level, threads: number, seeds: number): Promise<number> {
  const workers = Array.from(
    { length: threads },
    () => new Worker(new URL('./thread.mjs', import.meta.url), { workerData: './seed-thread.ts' }),
  )
  const document = JSON.stringify(level)
  await Promise.all(
    workers.map((worker) => {
      const ready = new Promise((resolve) => worker.once('message', resolve))
      worker.postMessage({ document })
      return ready
    }),
  )
  let next = 1
  const began = performance.now()
  await Promise.all(
    workers.map(async (worker) => {
      while (next <= seeds) {
        const seed = next++
        const done = new Promise((resolve) => worker.once('message', resolve))
        worker.postMessage({ seed })
        await done
      }
    }),
  )
  const ms = performance.now() - began
  await Promise.all(workers.map((worker) => worker.terminate()))
  return ms
}

/** A recording of an hour, packed as it is while it runs: that of one rehearsal over and over. */
function hour(run: Run): { chunks: Chunk[]; frames: number } {
  const { recording } = run.engine
  const chunks: Chunk[] = []
  let frames = 0
  while (frames < 36_000) {
    for (let k = 0; k + CHUNK_FRAMES <= recording.frameCount && frames < 36_000; k += CHUNK_FRAMES) {
      const list = Array.from({ length: CHUNK_FRAMES }, (_, q) => recording.frame(k + q))
      chunks.push({ first: frames, count: CHUNK_FRAMES, bytes: packFrames(list, FRAME_FIELDS) })
      frames += CHUNK_FRAMES
    }
  }
  return { chunks, frames }
}

export async function benchInsight(): Promise<void> {
  benchWindows()
  const level = DEMO_LEVELS[0].make()
  const SEEDS = 100
  const one = await seedsIn(level, 1, SEEDS)
  report({ what: `${SEEDS} seeds of ${level.name}, one thread`, measured: one / 1000, unit: 's' })
  const two = await seedsIn(level, 2, SEEDS)
  report({
    what: `${SEEDS} seeds of ${level.name}, two threads`,
    measured: two / 1000,
    unit: 's',
    reference: `${(one / two).toFixed(2)} × one thread`,
  })
  const survey = new Survey()
  survey.update(level)
  const run = new Run(level, 7, survey)
  run.runTo(300)
  const { frame: _frame, frameCount: _count, ...rest } = recordedOf(run)
  const { chunks, frames } = hour(run)
  const file = writeRunFile({
    ...rest,
    name: 'Hour',
    revision: 1,
    seconds: 3600,
    hash: run.hash,
    verdicts: run.verdicts(),
    chunks,
  })
  const size = `${(file.length / 1e6).toFixed(1)} MB`
  const opened = timed(() => readRunFile(file))
  report({ what: 'opening a kept recording of an hour', measured: opened.ms, unit: 'ms', reference: size })
  const packed = new PackedFrames(opened.value.chunks)
  const seeks = Array.from({ length: 300 }, (_, k) => timed(() => packed.frame((k * 7919) % frames)).ms)
  report({ what: 'any moment of it, 95th percentile', measured: quantile(seeks, 0.95), unit: 'ms', budget: 20 })
}
