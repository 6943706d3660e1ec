import type { Level } from '@tidytrail/core/level'
import type { Recorded, RunFile, Verdict } from '@tidytrail/core/rehearsal'
import { computed, shallowRef, type Ref } from 'vue'
import type { RunCopy } from '../workers/insight.protocol'
import type { AgentInfo } from '../workers/rehearsal.protocol'
import { Frames, type AgentMoment } from './frames'

/** A rehearsal that is shown as it was kept, and not worked out here. */
export interface KeptRun {
  readonly id: string
  readonly name: string
  /** The level it is of. */
  readonly level: Level
  readonly revision: number
}

/** A run as it was, with what it is called: to be compared with. */
export interface PastRun {
  readonly name: string
  readonly copy: RunCopy
  readonly hash: string
}

/** A run that was gone on from otherwise, or begun again: all that is shown of it. */
export interface EarlierRun {
  readonly frames: Frames
  /** The key of each agent by its id. */
  readonly keys: ReadonlyMap<string, number>
  readonly verdicts: readonly Verdict[]
  /** Up to here both are the same, seconds. */
  readonly from: number
}

/** What of the run on the sheet is laid aside when another takes its place. */
interface Now {
  /** The kept rehearsal that is shown, where one is. */
  readonly kept: Ref<KeptRun | undefined>
  readonly recorded: Ref<Recorded | undefined>
  readonly recording: Frames
  readonly running: Ref<boolean>
  readonly hash: Ref<string>
  readonly seed: Ref<number>
  lastVerdicts(): readonly Verdict[]
}

/** The runs beside the one on the sheet: the one before it, and ghosts to compare with. */
export function runsBeside({ kept, recorded, recording, running, hash, seed, lastVerdicts }: Now) {
  const past = shallowRef<PastRun>()
  const earlier = shallowRef<EarlierRun>()

  /** What the run there is now is called. */
  const nameNow = () => kept.value?.name ?? `seed ${seed.value}`

  /** What is there now, apart from what comes: nothing of it changes any more. */
  function copyNow(): RunCopy | undefined {
    if (!recorded.value) return undefined
    const { frame: _frame, frameCount: _count, ...run } = recorded.value
    return { ...run, events: [...run.events], chunks: recording.packed, verdicts: lastVerdicts() }
  }

  /** Another run is about to take the place of this one, which is laid aside if it had come to its end. */
  function layAside(): void {
    const copy = hash.value ? copyNow() : undefined
    if (copy) past.value = { name: nameNow(), copy, hash: hash.value }
  }

  /** Keeps what is recorded of the run, as one to compare with. @param from where the next one parts from it, seconds */
  function keepEarlier(from: number): void {
    const keys = new Map((recorded.value?.agents ?? []).map((a) => [a.id, a.key]))
    earlier.value = { frames: recording.kept(), keys, verdicts: lastVerdicts(), from: Math.max(0, from) }
  }

  /** Shows another run as ghosts beside this one. @param from where they part, seconds */
  function showGhosts(copy: RunCopy, from: number): void {
    const frames = new Frames()
    frames.routes = copy.routes
    frames.posts = copy.posts
    frames.profiles = copy.profiles
    frames.take(0, copy.chunks)
    earlier.value = { frames, keys: new Map(copy.agents.map((a) => [a.id, a.key])), verdicts: copy.verdicts, from }
  }

  /** An agent at a moment of the run before; undefined when it was not there. */
  function earlierMoment(id: string, at: number): AgentMoment | undefined {
    const key = earlier.value?.keys.get(id)
    return key === undefined || at > earlier.value!.frames.seconds ? undefined : earlier.value!.frames.moment(key, at)
  }

  /** What came out differently from the run before, in words. */
  const differences = computed(() => {
    if (!earlier.value || running.value) return []
    const was = new Map(earlier.value.verdicts.map((v) => [v.agent, v]))
    return lastVerdicts().flatMap((v) => {
      const b = was.get(v.agent)
      if (!b) return [`${v.name} is new`]
      const made = b.stops.made === v.stops.made ? '' : `${b.stops.made} → ${v.stops.made} stops`
      const word =
        b.verdict === v.verdict ? '' : `${b.verdict.replaceAll('-', ' ')} → ${v.verdict.replaceAll('-', ' ')}`
      return made || word ? [`${v.name}: ${[word, made].filter(Boolean).join(', ')}`] : []
    })
  })

  return { past, earlier, nameNow, copyNow, layAside, keepEarlier, showGhosts, earlierMoment, differences }
}

/** Who takes part in a kept rehearsal, as the sheet shows them. */
export function agentsOf({ agents, verdicts, level }: RunFile): AgentInfo[] {
  const routes = new Map(verdicts.map((v) => [v.key, v.route]))
  return agents.map((a) => ({
    ...a,
    routeId: routes.get(a.key) ?? null,
    profileName: level.profiles[a.profileId]?.name ?? '',
    radiusM: level.profiles[a.profileId]?.radiusM ?? 0.3,
  }))
}
