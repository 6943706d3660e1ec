import { findingsOfTrials, type RunFinding } from '@tidytrail/core/checks'
import type {
  Company,
  Coverage,
  RunFigures,
  SneakAnswer,
  SpotWindows,
  StringLine,
  TrafficFigures,
  TrialResult,
  WidenProgress,
  Wish,
} from '@tidytrail/core/insight'
import type { Trial } from '@tidytrail/core/level'
import { proxy } from 'comlink'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { hire, type Hired } from '../workers/hired'
import type { Comparison, Found, Insighter, RunCopy } from '../workers/insight.protocol'
import type { HeatMap } from '../workers/rehearsal.protocol'
import type { StrayedLeg } from '@tidytrail/core/rehearsal'
import type { WhyDrawing } from '../map/layers/insight'
import { useAssetStore } from './assets'
import { useLevelStore } from './level'
import { useRehearsalStore } from './rehearsal'
import { useSurveyStore } from './survey'

/**
 * While a rehearsal is being worked out it is looked at anew so often, ms, and no more than this share of the time;
 * else once an edit is over.
 */
const RUNNING_MS = 2500
const RUNNING_SHARE = 1 / 4
const SETTLED_MS = 150

/** What has been found out about the rehearsal on the sheet: windows, safe ways, trials, coverage. */
export const useInsightStore = defineStore('insight', () => {
  const levels = useLevelStore()
  const rehearsal = useRehearsalStore()
  const assets = useAssetStore()
  const survey = useSurveyStore()
  const spots = shallowRef<Found['spots']>({})
  const lines = shallowRef<Found['lines']>({})
  const traffic = shallowRef<TrafficFigures>()
  const results = shallowRef<ReadonlyMap<string, TrialResult>>(new Map())
  /** Up to when what was found stands, seconds; below 0 for not at all. */
  const foundS = ref(-1)
  const looking = ref(false)
  /** Why nothing can be found out any more; empty while it can. */
  const failed = ref('')
  /** What the map shows of it, while it is wanted: coverage by everybody whose eyes count. */
  const shown = reactive({ coverage: false })
  const coverage = shallowRef<Coverage>()
  /** The routes whose string-line is looked at. */
  const routeIds = ref<readonly string[]>([])
  const strings = shallowRef<readonly StringLine[]>([])
  /** A place that is pointed at in a chart, metres. */
  const pointed = shallowRef<readonly [number, number]>()
  /** Why the chosen agent does what it does, as marks on the map. */
  const whyPath = shallowRef<WhyDrawing>()
  const widening = shallowRef<{
    readonly wish: Wish
    readonly progress: WidenProgress | undefined
    readonly done: boolean
  }>()

  let hired: Hired<Insighter> | undefined
  const given = new Set<string>()
  function worker(): Hired<Insighter> {
    if (!hired) {
      failed.value = ''
      given.clear()
      hired = hire<Insighter>(
        new Worker(new URL('../workers/insight.worker.ts', import.meta.url), { type: 'module' }),
        (why) => {
          failed.value = why
          hired = undefined
          looking.value = false
          widening.value = undefined
        },
      )
    }
    for (const [hash, bytes] of assets.bytes) {
      if (given.has(hash)) continue
      given.add(hash)
      void hired.ask(hired.remote.give(hash, bytes))
    }
    return hired
  }

  /** What the worker was last handed, so that it is not handed the same again. */
  let loaded: unknown[] = []
  async function hand(): Promise<Hired<Insighter> | undefined> {
    const { recorded } = rehearsal
    if (!recorded) return undefined
    const made = worker()
    const now = [made, recorded, rehearsal.recording.packed]
    if (now.every((part, k) => part === loaded[k])) return made
    loaded = now
    const { frame: _frame, frameCount: _count, ...run } = recorded
    await made.ask(
      made.remote.load({
        ...run,
        // Plain lists: what the page watches cannot be handed over.
        agents: [...run.agents],
        events: [...run.events],
        chunks: rehearsal.recording.packed,
        verdicts: [...rehearsal.lastVerdicts()],
      }),
    )
    return made
  }

  const wanted = computed(() => {
    const { level } = levels
    return {
      spots: Object.keys(level?.watchSpots ?? {}),
      lines: Object.keys(level?.sneakLines ?? {}),
      trials: Object.values(level?.trials ?? {}).some((t) => !t.off),
      traffic: Object.values(level?.routes ?? {}).some((r) => r.kind === 'lane'),
    }
  })
  const isWanted = computed(
    () =>
      wanted.value.spots.length + wanted.value.lines.length > 0 ||
      wanted.value.trials ||
      wanted.value.traffic ||
      shown.coverage ||
      routeIds.value.length > 0,
  )

  let again = false
  let timer: ReturnType<typeof setTimeout> | undefined
  let lookedAt = -Infinity
  let tookMs = 0

  async function look(): Promise<void> {
    clearTimeout(timer)
    timer = undefined
    if (looking.value) {
      again = true
      return
    }
    if (!rehearsal.begun || !isWanted.value || rehearsal.frameCount < 2 || failed.value) return
    looking.value = true
    lookedAt = performance.now()
    try {
      const made = await hand()
      if (!made) return
      const t = rehearsal.recordedS
      // First what is there at once; safe ways take longer.
      const drawn = await Promise.all(routeIds.value.map((id) => made.ask(made.remote.stringLine(id, waysOf(id)))))
      strings.value = drawn.flatMap((s) => s ?? [])
      const found = await made.ask(made.remote.find({ ...wanted.value }))
      if (found && rehearsal.begun) {
        spots.value = found.spots
        lines.value = found.lines
        results.value = new Map(found.trials.map((r) => [r.trialId, r]))
        traffic.value = found.traffic
        foundS.value = t
      }
      await cover(made)
    } finally {
      looking.value = false
      tookMs = performance.now() - lookedAt
      if (again) {
        again = false
        soon()
      }
    }
  }

  /** The ways of the legs of a route, as the survey knows them; not those of a kept rehearsal of another level. */
  const waysOf = (routeId: string) =>
    rehearsal.stale
      ? undefined
      : (survey.paths.get(routeId)?.paths ?? []).map((path) =>
          path.found ? path.line.map((p) => [...p] as const) : [],
        )

  /** What the coverage on the map is of: it takes long, and is looked for again only when something of that is other. */
  let covered: unknown[] = []
  async function cover(made: Hired<Insighter>): Promise<void> {
    const { hash, recorded } = rehearsal
    if (!shown.coverage || !hash || !recorded) return
    const { ground, solids, meshes, profiles, factions } = recorded.level
    const now = [hash, ground, solids, meshes, profiles, factions]
    if (coverage.value && now.every((part, k) => part === covered[k])) return
    covered = now
    coverage.value = await made.ask(made.remote.coverage([], null))
  }

  function soon(): void {
    clearTimeout(timer)
    const next = lookedAt + Math.max(RUNNING_MS, tookMs / RUNNING_SHARE)
    const wait = rehearsal.running ? Math.max(SETTLED_MS, next - performance.now()) : SETTLED_MS
    timer = setTimeout(() => void look(), wait)
  }

  watch(
    [
      () => rehearsal.begun,
      () => rehearsal.running,
      () => rehearsal.frameCount,
      () => levels.level,
      () => shown.coverage,
      routeIds,
    ],
    ([begun]) => {
      if (!begun) clear()
      else if (!timer || !rehearsal.running) soon()
    },
  )

  function clear(): void {
    spots.value = {}
    lines.value = {}
    traffic.value = undefined
    results.value = new Map()
    strings.value = []
    coverage.value = undefined
    company.value = undefined
    asked = ''
    widening.value = undefined
    foundS.value = -1
  }
  watch(
    () => shown.coverage,
    (on) => {
      if (!on) coverage.value = undefined
    },
  )

  /** Looks for what would widen a window; the map and everything else go on meanwhile. */
  async function widen(wish: Wish): Promise<void> {
    const made = await hand()
    if (!made) return
    widening.value = { wish, progress: undefined, done: false }
    const tell = (progress: WidenProgress) => {
      if (widening.value?.wish === wish) widening.value = { wish, progress, done: false }
    }
    const end = await made.ask(made.remote.widen(wish, proxy(tell)))
    // What was found before it was ended stays.
    const { progress } = widening.value ?? {}
    if (widening.value?.wish === wish) widening.value = { wish, progress: end ?? progress, done: true }
  }
  function stopWidening(): void {
    if (widening.value && !widening.value.done) widening.value = { ...widening.value, done: true }
    if (hired) void hired.ask(hired.remote.cancel())
  }

  /** Who meets whom, and who is alone: of the recording with this hash. */
  const company = shallowRef<{ readonly hash: string; readonly of: Company }>()
  let asked = ''
  async function findCompany(): Promise<void> {
    const { hash } = rehearsal
    if (!hash || hash === asked) return
    asked = hash
    const made = await hand()
    const of = made && (await made.ask(made.remote.company([])))
    if (of && rehearsal.hash === hash) company.value = { hash, of }
  }

  /** What of a zone is seen in what was rehearsed, by whose eyes count; it is shown on the map until something else is. */
  async function zoneSeen(zoneId: string): Promise<Coverage | undefined> {
    const made = await hand()
    const of = made && (await made.ask(made.remote.coverage([], zoneId)))
    if (of && rehearsal.begun) coverage.value = of
    covered = []
    return of
  }

  async function suggest(): Promise<readonly Trial[]> {
    const made = await hand()
    return (made && (await made.ask(made.remote.suggestTrials()))) ?? []
  }

  /** Where everybody went, and how far from their legs they strayed, up to a time. */
  async function heat(t: number): Promise<HeatMap | undefined> {
    const made = await hand()
    return made && made.ask(made.remote.heat(t))
  }
  async function straying(t: number): Promise<readonly StrayedLeg[] | undefined> {
    const made = await hand()
    return made && made.ask(made.remote.straying(t))
  }

  async function positions(): Promise<string | undefined> {
    const made = await hand()
    return made && made.ask(made.remote.positions())
  }

  /** How another run and this one differ. */
  async function compare(
    other: RunCopy,
    otherHash: string,
    chance: readonly RunFigures[],
  ): Promise<Comparison | undefined> {
    const made = await hand()
    const plain = { ...other, agents: [...other.agents], events: [...other.events], verdicts: [...other.verdicts] }
    return made && made.ask(made.remote.compare(plain, otherHash, rehearsal.hash, [...chance]))
  }

  /** Rehearses with many seeds in the page's own thread for it. */
  async function seeds(list: readonly number[], tell: (figures: RunFigures) => void): Promise<boolean> {
    const made = await hand()
    if (!made) return false
    return (await made.ask(made.remote.seeds(list, rehearsal.seconds, proxy(tell)))) ?? false
  }
  const cancel = () => hired && hired.ask(hired.remote.cancel())

  /** What is found by rehearsing: about agents, and the trials that fail. */
  const findings = computed<readonly RunFinding[]>(() => {
    const { level } = levels
    if (!level || results.value.size === 0) return rehearsal.findings
    return [...rehearsal.findings, ...findingsOfTrials(level, [...results.value.values()])]
  })

  const spotOf = (id: string): SpotWindows | undefined => spots.value[id]
  const lineOf = (id: string): SneakAnswer | undefined => lines.value[id]

  /** Begins again after it has broken down. */
  function restart(): void {
    failed.value = ''
    loaded = []
    soon()
  }

  function stop(): void {
    failed.value = ''
    clearTimeout(timer)
    hired?.end()
    hired = undefined
    loaded = []
    clear()
  }

  return {
    findings,
    spots,
    traffic,
    lines,
    results,
    foundS,
    looking,
    failed,
    shown,
    coverage,
    routeIds,
    strings,
    pointed,
    whyPath,
    widening,
    spotOf,
    lineOf,
    company,
    findCompany,
    zoneSeen,
    widen,
    stopWidening,
    suggest,
    heat,
    straying,
    positions,
    compare,
    seeds,
    cancel,
    restart,
    stop,
  }
})
