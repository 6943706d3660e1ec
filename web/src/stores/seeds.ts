import { passing, spreads, worstSeed, type RunFigures } from '@tidytrail/core/insight'
import type { Job } from '@tidytrail/contract'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { cancelJob, followJob, startJob } from '../api/jobs'
import { NoConnection } from '../api/client'
import { useInsightStore } from './insight'
import { useLevelStore } from './level'
import { useRehearsalStore } from './rehearsal'

/** Edits have so long to be kept before the server is asked for a job on them, ms. */
const KEPT_MS = 6000
const LOOKS_MS = 100

type Runs = Job['results'][number]

/** The same rehearsed with many seeds: on the server, or where there is none in a thread of the page. */
export const useSeedsStore = defineStore('seeds', () => {
  const levels = useLevelStore()
  const insight = useInsightStore()
  const rehearsal = useRehearsalStore()
  const runs = shallowRef<readonly RunFigures[]>([])
  const total = ref(0)
  const state = ref<'idle' | 'running' | 'done' | 'cancelled' | 'failed'>('idle')
  const where = ref<'server' | 'page'>('server')
  const why = ref('')
  /** The level they are of: figures of another are not to be compared with it. */
  const of = shallowRef<unknown>()
  let job: { readonly id: string; readonly stop: AbortController } | undefined
  let turn = 0

  const add = (more: readonly RunFigures[]) => {
    const known = new Set(runs.value.map((r) => r.seed))
    runs.value = [...runs.value, ...more.filter((r) => !known.has(r.seed))]
  }
  const told = (r: Runs): RunFigures => ({
    ...r,
    trials: r.trials.map((t) => ({ trialId: t.trialId, holds: t.holds, words: t.words, momentS: t.momentS })),
  })
  /** The name under which the page remembers its job, so that it is followed again when the page is loaded anew. */
  const noteOf = () => `tidytrail-job-${levels.id}`

  async function follow(id: string, mine: number): Promise<void> {
    const stop = new AbortController()
    job = { id, stop }
    sessionStorage.setItem(noteOf(), id)
    const end = await followJob(
      id,
      (now) => {
        if (turn !== mine) return
        total.value = now.total
        add(now.results.map(told))
      },
      stop.signal,
    )
    if (turn !== mine || !end) return
    sessionStorage.removeItem(noteOf())
    state.value = end.state === 'done' || end.state === 'cancelled' || end.state === 'failed' ? end.state : 'done'
    why.value = end.error ?? ''
  }

  /** Rehearses with so many seeds in a row. */
  async function start(first: number, count: number): Promise<void> {
    stop()
    const mine = ++turn
    const level = levels.level
    if (!level) return
    runs.value = []
    total.value = count
    state.value = 'running'
    why.value = ''
    of.value = level
    where.value = 'server'
    try {
      // The server rehearses what it has: what was just changed is on its way to it.
      for (let ms = 0; levels.waiting > 0 && ms < KEPT_MS; ms += LOOKS_MS)
        await new Promise((resolve) => setTimeout(resolve, LOOKS_MS))
      if (levels.waiting > 0 || !levels.id) throw new NoConnection()
      const made = await startJob(levels.id, { kind: 'seeds', first, count })
      if (turn === mine) await follow(made.id, mine)
    } catch (error) {
      if (turn !== mine) return
      if (!(error instanceof NoConnection)) {
        state.value = 'failed'
        why.value = (error as Error).message
        return
      }
      await startHere(first, count, mine)
    }
  }

  /** The same in a thread of the page, slower; it needs a rehearsal of the level to begin from. */
  async function startHere(first: number, count: number, mine: number): Promise<void> {
    where.value = 'page'
    if (!rehearsal.begun) {
      state.value = 'failed'
      why.value = 'The server cannot be reached. Rehearse once, and the page does it by itself.'
      return
    }
    const list = Array.from({ length: count }, (_, k) => (first + k) % 0x80000000)
    const all = await insight.seeds(list, (figures) => {
      if (turn === mine) add([figures])
    })
    if (turn === mine) state.value = all ? 'done' : 'cancelled'
  }

  /** Follows a job again that was begun before the page was loaded. */
  function resume(): void {
    const id = sessionStorage.getItem(noteOf())
    if (!id || state.value !== 'idle') return
    const mine = ++turn
    state.value = 'running'
    of.value = levels.level
    follow(id, mine).catch(() => {
      sessionStorage.removeItem(noteOf())
      if (turn === mine) state.value = 'idle'
    })
  }

  /** Ends what is going on; what has come of it stays. */
  function cancel(): void {
    if (state.value !== 'running') return
    turn++
    state.value = 'cancelled'
    sessionStorage.removeItem(noteOf())
    if (where.value === 'page') void insight.cancel()
    else if (job) void cancelJob(job.id).catch(() => {})
    job?.stop.abort()
  }
  /** The page leaves: a job goes on by itself on the server. */
  function stop(): void {
    turn++
    job?.stop.abort()
    job = undefined
  }
  function clear(): void {
    stop()
    runs.value = []
    total.value = 0
    state.value = 'idle'
  }

  const spread = computed(() => spreads(runs.value))
  const pass = computed(() => passing(runs.value))
  const worst = computed(() => worstSeed(runs.value))
  /** Are they of the level as it is? */
  const current = computed(() => of.value === levels.level)

  return { runs, total, state, where, why, spread, pass, worst, current, start, resume, cancel, stop, clear }
})
