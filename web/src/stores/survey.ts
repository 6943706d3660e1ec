import { changesProfiles, keyOf, type Finding, type Fix, type Severity, type Stage } from '@tidytrail/core/checks'
import { boxOf, type Box2, type Point3 } from '@tidytrail/core/geometry'
import { sameValue, type Level, type PatchOp, type Route } from '@tidytrail/core/level'
import { defaultProfile } from '@tidytrail/core/network'
import type { Island, Suggestion } from '@tidytrail/core/reach'
import { useThrottleFn } from '@vueuse/core'
import { proxy, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { hire, type Hired } from '../workers/hired'
import { heard } from '../workers/list-news'
import type {
  Connection,
  IslandFacts,
  LegAnswer,
  ProfileReach,
  RouteFacts,
  RoutePaths,
  Surveyor,
  SurveyReport,
  TileDrawing,
} from '../workers/surveyor.protocol'
import type { Rehearser, RunListener, RunNews } from '../workers/rehearsal.protocol'
import type { Offers } from '../workers/trying'
import { useAssetStore } from './assets'
import { useLevelStore } from './level'

/** The reach of one profile, ready to be drawn: paths in level metres. */
export interface ReachDrawing {
  tiles: Map<number, { fills: { island: number; z: number; path: Path2D }[]; edges: Path2D; box: Box2 }>
  islands: readonly Island[]
}

/** New ways out are shown so often, ms. */
const OFFERS_MS = 300

/** What the surveyor worker has found out about the level as it is. */
export const useSurveyStore = defineStore('survey', () => {
  const levels = useLevelStore()
  const assets = useAssetStore()
  const findings = shallowRef<readonly Finding[]>([])
  /** The ways out that help, by the keys of the findings, as far as they have been tried. */
  const offers = shallowRef<ReadonlyMap<string, readonly Fix[]>>(new Map())
  const reach = shallowRef(new Map<string, ReachDrawing>())
  const paths = shallowRef(new Map<string, RoutePaths>())
  const progress = ref<{ done: number; total: number }>()
  const tookMs = ref(0)
  const profileChoice = ref<string>()
  /** Where the reach is being rebuilt right now. */
  const rebuilding = shallowRef<readonly Box2[]>([])
  /** Passages that could be, as ghosts on the map. */
  const suggestions = shallowRef<readonly Suggestion[]>([])
  /** What the waypoint looked at is connected to. */
  const connection = shallowRef<Connection>()
  const islandFacts = shallowRef<readonly IslandFacts[]>([])
  /** The stamp of the newest level sent, and of the newest report. */
  const sent = ref(0)
  const seen = ref(0)
  const upToDate = computed(() => sent.value > 0 && seen.value === sent.value)

  const profileId = computed(() => {
    const level = levels.level
    if (!level) return undefined
    if (profileChoice.value && level.profiles[profileChoice.value]) return profileChoice.value
    return defaultProfile(level)
  })

  /** Why the surveyor does not work any more, in words; empty while it does. */
  const failed = ref('')
  /**
   * What can be believed of the checks: they know the level as it is, are at work and know it as it was, are at work for
   * the first time, or have stopped before they knew it.
   */
  const standing = computed(() => {
    if (upToDate.value) return 'known'
    if (failed.value) return 'stopped'
    return seen.value > 0 ? 'renewed' : 'begun'
  })
  let hired: Hired<Surveyor> | undefined
  let stopListening: (() => void) | undefined
  /** Who wants to hear of rehearsals, which run beside the survey. */
  let runs: RunListener | undefined
  /** What was asked of the rehearser before there was one. */
  let waitingRuns: ((rehearser: Remote<Rehearser>) => Promise<void>)[] = []

  async function start(): Promise<void> {
    const made = hire<Surveyor>(
      new Worker(new URL('../workers/surveyor.worker.ts', import.meta.url), { type: 'module' }),
      fail,
    )
    hired = made
    const surveyor = made.remote
    await made.ask(
      surveyor.start(
        proxy({
          report: take,
          // Even of a level that has been left behind: each tile is told of once, and the next picture builds on it.
          picture: (_stamp: number, id: string, drawn: ProfileReach) => takePicture(id, drawn),
          progress: (stamp: number, done: number, total: number, boxes?: readonly Box2[]) => {
            // What is being made for the first time is all of the level: there is nothing old to mark.
            if (boxes && seen.value > 0) rebuilding.value = boxes
            if (stamp === sent.value && total > 20) progress.value = { done, total }
          },
          offers: (stamp: number, tried: Offers) => {
            if (stamp !== sent.value) return
            for (const [key, ways] of Object.entries(tried)) if (triedAll.get(key) !== stamp) newOffers.set(key, ways)
            takeOffers()
          },
          failed: fail,
          news: (news: RunNews) => runs?.news(news),
          runFailed: (run: number, why: string) => runs?.runFailed(run, why),
        }),
      ),
    )
    if (hired !== made) return
    const tell = (level: Level, patch: PatchOp[] | 'anew') => {
      sent.value++
      const stamp = sent.value
      void made.ask(patch === 'anew' ? surveyor.setLevel(level, stamp) : surveyor.patch(patch, stamp))
    }
    stopListening = levels.listen(tell)
    assets.serve({ give: (hash, bytes) => made.ask(surveyor.give(hash, bytes)) })
    void made.ask(surveyor.hush(hushed))
    if (profileChoice.value) void made.ask(surveyor.watch([profileChoice.value]))
    void made.ask(surveyor.look(profileId.value, place.x, place.y))
    if (levels.level) tell(levels.level, 'anew')
    for (const what of waitingRuns) void made.ask(what(surveyor as unknown as Remote<Rehearser>))
    waitingRuns = []
  }

  /** The place looked at, metres: what is there is worked out first. */
  let place = { x: 0, y: 0 }
  function look(x: number, y: number): void {
    place = { x, y }
    void ask((s) => s.look(profileId.value, x, y))
  }

  /** Is nothing to be tried that nobody waits for, since a rehearsal may be begun at any moment? */
  let hushed = false
  function hush(on: boolean): void {
    hushed = on
    void ask((s) => s.hush(on))
  }

  function fail(why: string): void {
    failed.value = why
    progress.value = undefined
    rebuilding.value = []
  }

  /** Starts the surveyor again after it failed; the level is all it needs. */
  async function restart(): Promise<void> {
    stopListening?.()
    hired?.end()
    failed.value = ''
    await start()
  }

  const ask = <A>(question: (surveyor: Hired<Surveyor>['remote']) => Promise<A>): Promise<A | undefined> =>
    hired ? hired.ask(question(hired.remote)) : Promise.resolve(undefined)

  /** What is asked of the rehearser; @param listener hears what comes of it from now on */
  function rehearse(listener: RunListener, what: (rehearser: Remote<Rehearser>) => Promise<void>): void {
    runs = listener
    if (!hired) waitingRuns.push(what)
    void ask((s) => what(s as unknown as Remote<Rehearser>))
  }
  /** Every place of the rehearsal as CSV; undefined when there is none. */
  const script = () => ask((s) => s.script())
  const heat = (t: number) => ask((s) => s.heat(t))
  const straying = (t: number) => ask((s) => s.straying(t))

  watch(
    () => levels.level,
    (level) => level && assets.want(level),
    { immediate: true },
  )
  watch(profileChoice, (id) => void ask((s) => s.watch(id ? [id] : [])))
  watch(profileId, () => look(place.x, place.y))
  // What one profile could jump is none of another's business.
  watch(profileId, () => (suggestions.value = []))

  function stop(): void {
    stopListening?.()
    stopListening = undefined
    hired?.end()
    hired = undefined
    failed.value = ''
    findings.value = []
    offers.value = new Map()
    newOffers.clear()
    reach.value = new Map()
    paths.value = new Map()
    progress.value = undefined
    rebuilding.value = []
    suggestions.value = []
    islandFacts.value = []
    profileChoice.value = undefined
    seen.value = sent.value = 0
  }

  function take(report: SurveyReport): void {
    seen.value = report.stamp
    progress.value = undefined
    rebuilding.value = []
    tookMs.value = report.tookMs
    // What is as it was keeps its identity: the map is drawn anew for what has changed alone.
    const found = heard(findings.value, report.findings)
    if (!sameValue(findings.value, found)) {
      findings.value = found
      // What helped before is shown until it has been tried anew; it is tried again when it is taken.
      const here = new Set(found.map(keyOf))
      offers.value = new Map([...offers.value].filter(([key]) => here.has(key)))
    }
    takeReach(report.profiles)
    const routes = Object.entries(report.routes)
    if (routes.length === 0) return
    for (const [id, routeWays] of routes) {
      if (routeWays) paths.value.set(id, routeWays)
      else paths.value.delete(id)
    }
    paths.value = new Map(paths.value)
  }

  /** Takes what is known of the reach looked at while the rest is still worked out. */
  function takePicture(id: string, drawn: ProfileReach): void {
    // Islands are known once the map is whole: then no part of it is out of date any more.
    if (drawn.islands.length > 0) rebuilding.value = []
    if (takeReachOf({ [id]: drawn })) reach.value = new Map(reach.value)
  }

  function takeReach(profiles: SurveyReport['profiles']): void {
    let changed = false
    for (const id of reach.value.keys())
      if (!profiles[id]) {
        reach.value.delete(id)
        changed = true
      }
    if (takeReachOf(profiles) || changed) reach.value = new Map(reach.value)
  }

  /** @returns is any of it other than before? */
  function takeReachOf(profiles: SurveyReport['profiles']): boolean {
    let changed = false
    for (const [id, { tiles, anew, islands }] of Object.entries(profiles)) {
      let drawing = reach.value.get(id)
      const news = Object.entries(tiles)
      if (drawing && !anew && news.length === 0 && sameValue(drawing.islands, islands)) continue
      changed = true
      if (!drawing || anew) reach.value.set(id, (drawing = { tiles: new Map(), islands }))
      drawing.islands = islands
      for (const [k, tile] of news) drawing.tiles.set(Number(k), draw(tile))
    }
    return changed
  }

  const path = async (
    from: Point3,
    to: Point3,
    profile = profileId.value,
    legs: Route['legs'] = 'found',
  ): Promise<LegAnswer | undefined> => (profile ? ask((s) => s.path(profile, from, to, legs)) : undefined)
  /** Findings all ways out of which have been tried, with the stamp of the level they were tried on. */
  const triedAll = new Map<string, number>()
  /** Ways out that have been tried and are to be shown: not one by one, or the lists of findings would do nothing else. */
  const newOffers = new Map<string, readonly Fix[]>()
  const takeOffers = useThrottleFn(
    () => {
      offers.value = new Map([...offers.value, ...newOffers])
      newOffers.clear()
    },
    OFFERS_MS,
    true,
  )
  const isTried = (finding: Finding): boolean => offers.value.has(keyOf(finding))
  const offersOf = (finding: Finding): readonly Fix[] => offers.value.get(keyOf(finding)) ?? []
  /** How many findings of each check can be mended, as far as that has been tried. */
  const fixable = computed(() => {
    const tried = offers.value
    const counts = new Map<string, number>()
    for (const f of findings.value) if (tried.get(keyOf(f))?.length) counts.set(f.check, (counts.get(f.check) ?? 0) + 1)
    return counts
  })
  /** Tries all ways out of a finding, those that take long too. */
  async function tryAllWays(finding: Finding): Promise<readonly Fix[]> {
    const key = keyOf(finding)
    const ways = await ask((s) => s.waysOut(key))
    if (!ways) return offersOf(finding)
    triedAll.set(key, sent.value)
    offers.value = new Map(offers.value).set(key, ways)
    return ways
  }
  /** Does a way out still help? What takes long to try has been tried when it was shown. */
  const stillHelps = async (finding: Finding, fix: Fix): Promise<boolean> => {
    if (changesProfiles(fix)) return true
    const key = keyOf(finding)
    return (await ask((s) => s.helps(key, fix))) ?? true
  }
  const mendable = async (list: readonly Finding[]) => (await ask((s) => s.mendable(list.map(keyOf)))) ?? []
  const facts = async (routeId: string): Promise<RouteFacts | undefined> => ask((s) => s.facts(routeId))
  const connect = async (fromId: string, toId?: string, profile = profileId.value): Promise<Connection | undefined> =>
    profile ? ask((s) => s.connect(profile, fromId, toId)) : undefined
  const inSight = async (waypointIds: readonly string[], withinM: number, profile = profileId.value) =>
    profile ? ((await ask((s) => s.inSight(profile, waypointIds, withinM))) ?? []) : []
  const spare = async (routeId: string, stretch: number) => (await ask((s) => s.spare(routeId, stretch))) ?? []
  const whyNot = async (at: Point3, profile = profileId.value) =>
    profile ? ask((s) => s.whyNot(profile, at)) : undefined

  /** Fills in what is known of the islands of the profile looked at. */
  async function askIslands(): Promise<void> {
    const profile = profileId.value
    const facts = profile ? await ask((s) => s.islands(profile)) : undefined
    if (profile === profileId.value) islandFacts.value = facts ?? []
  }
  /** Looks for passages that could be. */
  async function suggest(): Promise<number> {
    const profile = profileId.value
    suggestions.value = (profile && (await ask((s) => s.suggest(profile)))) || []
    return suggestions.value.length
  }
  const cast = (seed: number) => ask((s) => s.cast(seed))
  const suggestPosts = (zoneId: string, most: number) => ask((s) => s.suggestPosts(zoneId, most))
  const stipple = async (everyM: number, profile = profileId.value) =>
    profile ? ask((s) => s.stipple(profile, everyM)) : undefined

  const counts = computed(() => {
    const table = {} as Record<Stage, Record<Severity, number>>
    for (const f of findings.value) {
      table[f.stage] ??= { blocker: 0, warning: 0, note: 0 }
      table[f.stage][f.severity]++
    }
    return table
  })
  /** Findings by the things they are about, numbered as in the list. */
  const bySubject = computed(() => {
    const map = new Map<string, { finding: Finding; number: number }[]>()
    findings.value.forEach((finding, i) => {
      for (const id of finding.subjects) {
        const list = map.get(id)
        if (list) list.push({ finding, number: i + 1 })
        else map.set(id, [{ finding, number: i + 1 }])
      }
    })
    return map
  })

  return {
    rehearse,
    look,
    hush,
    script,
    heat,
    straying,
    failed,
    restart,
    findings,
    reach,
    paths,
    progress,
    tookMs,
    profileChoice,
    profileId,
    upToDate,
    standing,
    counts,
    bySubject,
    start,
    stop,
    path,
    offers,
    isTried,
    offersOf,
    fixable,
    tryAllWays,
    stillHelps,
    mendable,
    connection,
    facts,
    connect,
    inSight,
    spare,
    sent,
    seen,
    whyNot,
    rebuilding,
    suggestions,
    islandFacts,
    askIslands,
    suggest,
    cast,
    suggestPosts,
    stipple,
  }
})

function draw(tile: TileDrawing) {
  const edges = new Path2D()
  for (const xy of tile.edges) trace(edges, xy, false)
  const byIsland = new Map<number, { island: number; z: number; path: Path2D }>()
  for (const { island, z, xy } of tile.rings) {
    let fill = byIsland.get(island)
    if (!fill) byIsland.set(island, (fill = { island, z, path: new Path2D() }))
    trace(fill.path, xy, true)
  }
  const box = boxOf([...tile.edges, ...tile.rings.map((r) => r.xy)].flatMap(places))
  return { fills: [...byIsland.values()], edges, box }
}

function places(xy: Float32Array): [number, number][] {
  const list: [number, number][] = []
  for (let k = 0; k < xy.length; k += 2) list.push([xy[k], xy[k + 1]])
  return list
}

function trace(path: Path2D, xy: Float32Array, close: boolean): void {
  for (let k = 0; k < xy.length; k += 2) {
    if (k === 0) path.moveTo(xy[0], xy[1])
    else path.lineTo(xy[k], xy[k + 1])
  }
  if (close) path.closePath()
}
