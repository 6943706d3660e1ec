import { sameValue, type Level } from '@tidytrail/core/level'
import { findingsOfRun, type RunFinding } from '@tidytrail/core/checks'
import { sightsAt } from '@tidytrail/core/insight'
import {
  eventWords,
  FRAMES_PER_SECOND,
  placedForPlan,
  type AgentEvent,
  type Planned,
  type Recorded,
  type RunFile,
  type Verdict,
} from '@tidytrail/core/rehearsal'
import { defineStore } from 'pinia'
import { computed, markRaw, ref, shallowRef, triggerRef } from 'vue'
import type { AgentInfo, Judged, RunNews } from '../workers/rehearsal.protocol'
import { Frames, type AgentMoment } from './frames'
import { useLevelStore } from './level'
import { priceOf } from './price'
import { agentsOf, runsBeside, type KeptRun } from './runs-beside'
import { useSurveyStore } from './survey'
import { whoIsWho } from './who-is-who'

export type { AgentMoment } from './frames'

export const SPEEDS = [0.25, 0.5, 1, 2, 4, 8, 16, 32] as const
/** The rehearser is told where one is looking so often, ms. */
const LOOKS_MS = 100

/** The rehearsal on the sheet: its recording, and where in it one is looking. */
export const useRehearsalStore = defineStore('rehearsal', () => {
  const levels = useLevelStore()
  const survey = useSurveyStore()
  const agents = shallowRef<readonly AgentInfo[]>([])
  // Raw: it is read thousands of times a frame, and `frameCount` tells when it has grown.
  const recording = markRaw(new Frames())
  const frameCount = ref(0)
  const seconds = ref(0)
  const seed = ref(1)
  const t = ref(0)
  const playing = ref(false)
  const speed = ref(1)
  /** The verdicts as they stood at moments of the run, in order. */
  const judged = shallowRef<Judged[]>([])
  /** The verdicts as they stand at the moment looked at. */
  const judgment = computed<Judged | undefined>(() => {
    const list = judged.value
    let k = list.length - 1
    while (k > 0 && list[k].t > t.value + 1e-6) k--
    return list[k]
  })
  const verdicts = computed<readonly Verdict[]>(() => judgment.value?.verdicts ?? [])
  /** As of when they stand, seconds. */
  const judgedS = computed(() => judgment.value?.t ?? 0)
  /** What is found by it as it stood then; each points at its moment. */
  const findings = computed<readonly RunFinding[]>(() => {
    const level = levelShown.value
    if (!level || !begun.value || verdicts.value.length === 0) return []
    const at = judgedS.value
    return findingsOfRun({
      level,
      t: at,
      stepS: stepS.value,
      verdicts: verdicts.value,
      // As they are by now, without being made anew for each event: verdicts come every second.
      events: log,
      changes: changes.value,
      nameOf: (key) => byKey.value.get(key)?.name,
      placeOf: (key, when) => {
        const now = recording.moment(key, when)
        return now && [now.x, now.y, now.z]
      },
    })
  })
  const lastVerdicts = () => judged.value.at(-1)?.verdicts ?? []
  const events = shallowRef<AgentEvent[]>([])
  let log: readonly AgentEvent[] = []
  const marks = shallowRef<RunNews['marks']>([])
  const hash = ref('')
  const running = ref(false)
  const begun = ref(false)
  /** A span that is played over and over, seconds. */
  const loop = ref<{ from: number; to: number }>()
  /** The stand-in that is steered by keys, by its id. */
  const steering = ref<string>()
  /** The kept rehearsal that is shown, where one is; its level stands for the one on the sheet. */
  const kept = shallowRef<KeptRun>()
  /** Is it of another level than this is now? */
  const stale = computed(() => kept.value !== undefined && !sameValue(kept.value.level, levels.level))
  /** The level of what is shown. */
  const levelShown = computed(() => kept.value?.level ?? levels.level)
  const stepS = computed(() => 1 / (levelShown.value?.settings.stepsPerSecond ?? 30))
  /** When those who have left did, by their keys, seconds. */
  const leftS = computed(() => {
    const at = new Map<number, number>()
    for (const e of events.value) if (e.kind === 'left') at.set(e.key, e.step * stepS.value)
    return at
  })
  /** All that was recorded so far, for whoever finds something out about it. */
  const recorded = computed<Recorded | undefined>(() => {
    const level = levelShown.value
    if (!level || !begun.value) return undefined
    return {
      level,
      seed: seed.value,
      stepS: stepS.value,
      frameCount: frameCount.value,
      frame: recording.frame,
      agents: agents.value.map((a) => ({ ...a, leftS: leftS.value.get(a.key) })),
      events: events.value,
      routes: recording.routes,
      posts: recording.posts,
      profiles: recording.profiles,
    }
  })

  const beside = runsBeside({ kept, recorded, recording, running, hash, seed, lastVerdicts })
  const { past, earlier, keepEarlier } = beside
  const recordedS = computed(() => Math.max(0, frameCount.value - 1) / FRAMES_PER_SECOND)
  const atEnd = computed(() => !running.value && begun.value && t.value >= seconds.value - 1e-6)
  /** The level it was begun with. */
  const of = shallowRef<Level>()
  /**
   * How often the level was changed while it ran: what was recorded before is of the level as it was then. Changes that
   * were undone again are none.
   */
  const changes = computed(() => {
    const count = marks.value.filter((m) => m.what === 'edit').length
    return count > 0 && !sameValue(of.value, levels.level) ? count : 0
  })
  const { placeOf, count, byKey, nameOf } = whoIsWho(agents, t)
  const verdictOf = computed(() => new Map(verdicts.value.map((v) => [v.agent, v])))

  /** Why the rehearsal could not be brought to an end, in words; empty when it could. */
  const failed = ref('')
  let run = 0
  let last = 0
  let tick = 0
  let looked = 0

  const listener = {
    runFailed(of: number, why: string) {
      if (of !== run) return
      failed.value = why
      running.value = false
    },
    news(news: RunNews) {
      if (news.run !== run) return
      // Something was done to a run that was all there: it is kept to compare with.
      if (hash.value && news.from < recording.count && !steering.value) keepEarlier((news.from - 1) / FRAMES_PER_SECOND)
      recording.take(news.from, news.chunks)
      recording.routes = news.routes
      recording.posts = news.posts
      recording.profiles = news.profiles
      frameCount.value = recording.count
      if (news.agents.list.length > 0 || news.agents.from < agents.value.length)
        agents.value = [...agents.value.slice(0, news.agents.from), ...news.agents.list]
      if (news.events.list.length > 0 || news.events.from < events.value.length) {
        events.value.length = news.events.from
        for (const event of news.events.list) events.value.push(event)
        log = events.value
        triggerRef(events)
      }
      if (news.verdicts.list.length > 0 || news.verdicts.from < judged.value.length)
        judged.value = [...judged.value.slice(0, news.verdicts.from), ...news.verdicts.list]
      if (news.marks.length !== marks.value.length) marks.value = news.marks
      hash.value = news.hash ?? ''
      running.value = news.hash === undefined
      if (t.value > recordedS.value) t.value = recordedS.value
    },
  }
  // What was kept is not worked out here: there is nobody to ask.
  const ask = (what: Parameters<typeof survey.rehearse>[1]) => {
    if (!kept.value) survey.rehearse(listener, what)
  }

  /** Shows a rehearsal that was kept, as it was. */
  function openKept(id: string, file: RunFile): void {
    beside.layAside()
    clear()
    kept.value = { id, name: file.name, level: file.level, revision: file.revision }
    of.value = file.level
    seed.value = file.seed
    seconds.value = file.seconds
    recording.routes = file.routes
    recording.posts = file.posts
    recording.profiles = file.profiles
    recording.take(0, file.chunks)
    frameCount.value = recording.count
    agents.value = agentsOf(file)
    judged.value = [{ t: file.seconds, verdicts: file.verdicts }]
    log = events.value = [...file.events]
    marks.value = []
    hash.value = file.hash
    earlier.value = loop.value = undefined
    failed.value = ''
    begun.value = true
    last = performance.now()
    if (!tick) tick = requestAnimationFrame(advance)
  }
  /** Begins again from the first second, with the level as it is. */
  function begin(withSeed: number, plan?: Planned): void {
    const level = levels.level
    if (!level) return
    if (begun.value && withSeed === seed.value && hash.value) keepEarlier(0)
    else earlier.value = undefined
    beside.layAside()
    kept.value = undefined
    run++
    seed.value = withSeed
    of.value = (plan && placedForPlan(level, plan)) ?? level
    seconds.value = level.settings.rehearseS
    recording.clear()
    frameCount.value = 0
    agents.value = []
    judged.value = []
    log = events.value = []
    marks.value = []
    hash.value = ''
    t.value = 0
    startsAt = undefined
    failed.value = ''
    loop.value = undefined
    steering.value = undefined
    begun.value = running.value = playing.value = true
    const mine = run
    ask((r) => r.begin(mine, withSeed, seconds.value, plan))
    last = performance.now()
    if (!tick) tick = requestAnimationFrame(advance)
  }

  /** Rehearses again with the stand-in steered by a plan along a line, and looks at where it sets out. */
  function playPlan(points: Planned['points'], { moves }: Pick<Planned, 'moves'>): void {
    begin(seed.value, { points: points.map((p) => [...p] as const), moves })
    startsAt = Math.max(0, moves[0].fromS - 2)
  }
  /** The moment to go to once it is recorded, seconds. */
  let startsAt: number | undefined

  function advance(now: number): void {
    tick = requestAnimationFrame(advance)
    const dt = Math.min(0.25, (now - last) / 1000)
    last = now
    if (!playing.value || !begun.value) return
    if (startsAt !== undefined && recordedS.value >= startsAt) {
      t.value = startsAt
      startsAt = undefined
    }
    t.value = Math.min(t.value + dt * speed.value, recordedS.value, seconds.value)
    if (loop.value && t.value >= loop.value.to) t.value = loop.value.from
    if (atEnd.value) playing.value = false
    look(now)
  }

  /** Tells the rehearser where one is: what is done to the run is done there. */
  function look(now = performance.now(), force = false): void {
    if (!force && now - looked < LOOKS_MS) return
    looked = now
    const at = t.value
    ask((r) => r.lookAt(at))
  }

  function seek(to: number): void {
    t.value = Math.max(0, Math.min(to, recordedS.value))
    if (begun.value) look(undefined, true)
  }

  function playOrPause(): void {
    if (!begun.value) {
      const { level } = levels
      if (level && Object.keys(level.spawners).length > 0) begin(level.settings.seed)
      return
    }
    if (atEnd.value) seek(0)
    playing.value = !playing.value
    if (begun.value) look(undefined, true)
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

  /** Goes on from the moment looked at with the level as it now is. */
  function goOnFromHere(): void {
    if (!begun.value || kept.value) return
    keepEarlier(t.value)
    hash.value = ''
    running.value = playing.value = true
    const at = t.value
    ask((r) => r.goOnFrom(at))
  }

  /** To the next event of an agent, or of anybody, or the one before. */
  function toEvent(direction: 1 | -1, key?: number): void {
    const step = t.value / stepS.value
    const list = events.value.filter((e) => key === undefined || e.key === key)
    const found = direction > 0 ? list.find((e) => e.step > step + 0.5) : list.findLast((e) => e.step < step - 0.5)
    playing.value = false
    if (found) seek(found.step * stepS.value)
  }

  function steer(id: string, x: number, y: number, mps: number): void {
    look(undefined, true)
    ask((r) => r.steer(id, x, y, mps))
  }
  /** Takes a stand-in by the keys from now on, or lets it go on with its brief. */
  function takeOver(id: string | undefined): void {
    if (steering.value && steering.value !== id) steer(steering.value, 0, 0, -1)
    // Every key pressed is another run: the one to compare with is that before the first.
    if (id && !steering.value && recordedS.value > t.value + 1) keepEarlier(t.value)
    steering.value = id
    if (!id) return
    steer(id, 0, 0, 0)
    speed.value = 1
    playing.value = true
  }
  function makeNoise(id: string): void {
    look(undefined, true)
    ask((r) => r.makeNoise(id))
  }

  /** Ends a run that is being worked out where it has come to; what is recorded stays. */
  function endHere(): void {
    if (!running.value) return
    run++
    ask((r) => r.giveUp())
    running.value = false
    seconds.value = recordedS.value
  }

  /** What a rehearsal of the level as it is will take, where that is much. */
  const price = computed(() => levels.level && priceOf(levels.level))

  function clear(): void {
    run++
    if (begun.value) ask((r) => r.giveUp())
    kept.value = undefined
    cancelAnimationFrame(tick)
    tick = 0
    begun.value = playing.value = running.value = false
    agents.value = []
    log = events.value = []
    recording.clear()
    frameCount.value = 0
    t.value = 0
    steering.value = undefined
  }

  function stop(): void {
    clear()
    past.value = undefined
    failed.value = ''
  }

  /** An agent at a moment, by its place in the list; undefined when it is not there then. */
  function moment(n: number, at = t.value): AgentMoment | undefined {
    const agent = agents.value[n]
    return agent && recording.moment(agent.key, at)
  }

  /** An event in words. */
  function words(event: AgentEvent): string {
    const level = levelShown.value
    if (!level) return ''
    return eventWords(event, stepS.value, nameOf, level.routes[recording.routes[event.route]], level)
  }

  /** Who sees whom at the moment looked at: keys. */
  const perceived = computed(() => {
    void frameCount.value
    return sightsAt({ events: events.value, stepS: stepS.value }, t.value)
  })

  return {
    failed,
    agents,
    recording,
    frameCount,
    seconds,
    seed,
    t,
    playing,
    speed,
    verdicts,
    verdictOf,
    findings,
    events,
    marks,
    changes,
    hash,
    running,
    begun,
    loop,
    earlier,
    of,
    steering,
    perceived,
    recordedS,
    judgedS,
    atEnd,
    stepS,
    begin,
    seek,
    playPlan,
    playOrPause,
    stepBy,
    faster,
    goOnFromHere,
    toEvent,
    steer,
    takeOver,
    makeNoise,
    clear,
    endHere,
    price,
    stop,
    moment,
    placeOf,
    count,
    words,
    nameOf,
    recorded,
    lastVerdicts,
    kept,
    stale,
    past,
    openKept,
    copyNow: beside.copyNow,
    nameNow: beside.nameNow,
    showGhosts: beside.showGhosts,
    earlierMoment: beside.earlierMoment,
    differences: beside.differences,
  }
})
