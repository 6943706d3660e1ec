import { assetIdsOf, sameValue, type Level } from '@tidytrail/core/level'
import {
  FRAME_FIELDS,
  FRAMES_PER_SECOND,
  STATES,
  type AgentEvent,
  type AgentState,
  type Verdict,
} from '@tidytrail/core/rehearsal'
import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { hire, type Hired } from '../workers/hired'
import type { AgentInfo, FrameBatch, Rehearser, RehearsalEnd } from '../workers/rehearser.protocol'
import { useAssetStore } from './assets'
import { useLevelStore } from './level'

/** One agent at one moment, read from the recording. Metres, radians, seconds. */
export interface AgentMoment {
  x: number
  y: number
  z: number
  heading: number
  speed: number
  offLine: number
  state: AgentState
  fromStop: number
  toStop: number
}

export const SPEEDS = [0.25, 0.5, 1, 2, 4, 8, 16] as const

/** The rehearsal on the sheet: its recording, and where in it one is looking. */
export const useRehearsalStore = defineStore('rehearsal', () => {
  const levels = useLevelStore()
  const assets = useAssetStore()
  /** Assets the worker has been handed. */
  const given = new Set<string>()
  const agents = shallowRef<readonly AgentInfo[]>([])
  const frames = shallowRef<Int32Array[]>([])
  const frameCount = ref(0)
  const seconds = ref(0)
  const seed = ref(1)
  const t = ref(0)
  const playing = ref(false)
  const speed = ref(1)
  const verdicts = shallowRef<readonly Verdict[]>([])
  const events = shallowRef<Record<string, readonly AgentEvent[]>>({})
  const hash = ref('')
  const running = ref(false)
  /** The level the rehearsal was begun with. */
  const of = shallowRef<Level>()
  const begun = computed(() => of.value !== undefined)
  /** Does the level differ from the one that was rehearsed? A change that was undone is none. */
  const stale = computed(() => begun.value && !sameValue(of.value, levels.level))
  const recordedS = computed(() => Math.max(0, frameCount.value - 1) / FRAMES_PER_SECOND)
  const atEnd = computed(() => !running.value && begun.value && t.value >= seconds.value - 1e-6)

  /** Why the rehearsal could not be brought to an end, in words; empty when it could. */
  const failed = ref('')
  let hired: Hired<Rehearser> | undefined
  let run = 0
  let last = 0
  let tick = 0

  /** The worker breaks down, or says that a run came to nothing: what is recorded stays, and one can begin again. */
  function fail(why: string): void {
    failed.value = why
    running.value = false
  }

  async function ready(): Promise<Hired<Rehearser>> {
    if (hired) return hired
    const made = hire<Rehearser>(
      new Worker(new URL('../workers/rehearser.worker.ts', import.meta.url), { type: 'module' }),
      (why) => {
        // The next run begins with a new worker, which has been given nothing yet.
        hired = undefined
        given.clear()
        fail(why)
      },
    )
    hired = made
    await made.ask(
      made.remote.start(
        proxy({
          failed: (of: number, why: string) => {
            if (of === run) fail(why)
          },
          agents: (of: number, list: readonly AgentInfo[]) => {
            if (of === run) agents.value = list
          },
          frames: (batch: FrameBatch) => {
            if (batch.run !== run) return
            frames.value.push(...batch.frames)
            frameCount.value = frames.value.length
          },
          end: (end: RehearsalEnd) => {
            if (end.run !== run) return
            running.value = false
            verdicts.value = end.verdicts
            events.value = end.events
            hash.value = end.hash
          },
        }),
      ),
    )
    return made
  }

  /** Begins again from the first second. */
  async function begin(withSeed: number): Promise<void> {
    const level = levels.level
    if (!level) return
    run++
    seed.value = withSeed
    seconds.value = level.settings.rehearseS
    frames.value = []
    frameCount.value = 0
    verdicts.value = []
    events.value = {}
    hash.value = ''
    t.value = 0
    of.value = level
    failed.value = ''
    running.value = true
    playing.value = true
    const mine = run
    const { remote, ask } = await ready()
    for (const hash of assetIdsOf(level)) {
      const bytes = assets.bytes.get(hash)
      if (bytes && !given.has(hash)) await ask(remote.give(hash, bytes))
      given.add(hash)
    }
    if (mine === run) await ask(remote.run(run, level, withSeed, seconds.value))
    last = performance.now()
    if (!tick) tick = requestAnimationFrame(advance)
  }

  function advance(now: number): void {
    tick = requestAnimationFrame(advance)
    const dt = Math.min(0.25, (now - last) / 1000)
    last = now
    if (!playing.value || !begun.value) return
    t.value = Math.min(t.value + dt * speed.value, recordedS.value, seconds.value)
    if (atEnd.value) playing.value = false
  }

  function seek(to: number): void {
    t.value = Math.max(0, Math.min(to, recordedS.value))
  }

  function playOrPause(): void {
    if (atEnd.value) seek(0)
    playing.value = !playing.value
  }

  /** One recorded frame on or back. */
  function stepBy(n: number): void {
    playing.value = false
    seek((Math.round(t.value * FRAMES_PER_SECOND) + n) / FRAMES_PER_SECOND)
  }

  function faster(by: number): void {
    const at = SPEEDS.indexOf(speed.value as (typeof SPEEDS)[number])
    speed.value = SPEEDS[Math.max(0, Math.min(SPEEDS.length - 1, at + by))]
  }

  function clear(): void {
    run++
    if (hired) void hired.ask(hired.remote.stop())
    cancelAnimationFrame(tick)
    tick = 0
    of.value = undefined
    playing.value = running.value = false
    agents.value = []
    frames.value = []
    frameCount.value = 0
    t.value = 0
  }

  function stop(): void {
    clear()
    hired?.end()
    hired = undefined
    failed.value = ''
  }

  /** An agent at a moment, between frames where need be; undefined before the recording has come so far. */
  function moment(n: number, at = t.value): AgentMoment | undefined {
    const f = Math.min(at * FRAMES_PER_SECOND, frames.value.length - 1)
    const k = Math.floor(f + 1e-9)
    const a = frames.value[k]
    if (!a || (n + 1) * FRAME_FIELDS > a.length) return undefined
    const b = frames.value[Math.min(k + 1, frames.value.length - 1)]
    const share = f - k
    const i = n * FRAME_FIELDS
    const mix = (field: number) => (a[i + field] + (b[i + field] - a[i + field]) * share) / 1000
    let turned = b[i + 3] - a[i + 3]
    if (turned > Math.PI * 1000) turned -= 2 * Math.PI * 1000
    if (turned < -Math.PI * 1000) turned += 2 * Math.PI * 1000
    return {
      x: mix(0),
      y: mix(1),
      z: mix(2),
      heading: (a[i + 3] + turned * share) / 1000,
      speed: mix(4),
      offLine: mix(5),
      state: STATES[a[i + 6]],
      fromStop: a[i + 7],
      toStop: a[i + 8],
    }
  }

  return {
    failed,
    agents,
    frames,
    frameCount,
    seconds,
    seed,
    t,
    playing,
    speed,
    verdicts,
    events,
    hash,
    running,
    begun,
    stale,
    recordedS,
    atEnd,
    begin,
    seek,
    playOrPause,
    stepBy,
    faster,
    clear,
    stop,
    moment,
  }
})
