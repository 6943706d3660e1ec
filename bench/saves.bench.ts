import { randomUUID } from 'node:crypto'
import type { Revision } from '@tidytrail/contract'
import { blankLevel, type Level, type Waypoint } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { post, sendPatch, serve, watchHealth, type Served } from './attacks/served'
import { chance } from './attacks/random'
import { quantile, report } from './measure'

const SAVES = 60
const CLIENTS = 20
const CLIENTS_S = 10

const plainPoint = (at: [number, number, number]): Waypoint => ({ name: '', at, liftM: 0, markerId: null, tags: [] })

/** A level with so many waypoints and little else. */
function manyPoints(count: number): Level {
  const waypoints: Record<string, Waypoint> = {}
  for (let k = 0; k < count; k++) waypoints[`wp_m${k}`] = plainPoint([k % 1000, Math.floor(k / 1000), 0])
  return { ...blankLevel('Many points', 1000, 1000), waypoints }
}

/** Times saves of one waypoint moved each, one after the other. @returns milliseconds */
async function saves({ url }: Served, id: string, level: Level): Promise<number[]> {
  const ids = Object.keys(level.waypoints)
  const times: number[] = []
  for (let k = 0, revision = 1; k < SAVES; k++) {
    const ops =
      ids.length === 0
        ? [{ op: 'replace', path: '/note', value: `${k}` }]
        : [{ op: 'replace', path: `/waypoints/${ids[(k * 7919) % ids.length]}/at`, value: [k, k, 0] }]
    const began = performance.now()
    const answer = await sendPatch<{ revision: number }>(url, id, revision, randomUUID(), ops)
    times.push(performance.now() - began)
    if (answer.status !== 200) throw new Error(`a save was answered with ${answer.status}`)
    revision = answer.body.revision
  }
  return times
}

/** Many clients at one level for a while: each at waypoints of its own, or all at any of them. */
async function crowd({ url }: Served, id: string, level: Level, own: boolean) {
  const ids = Object.keys(level.waypoints)
  const random = chance(20_261_126)
  const place = (client: number, k: number) => {
    const share = Math.floor(ids.length / CLIENTS)
    const index = own ? client * share + (k % share) : Math.floor(random() * ids.length)
    return `/waypoints/${ids[index]}/at`
  }
  const until = performance.now() + CLIENTS_S * 1000
  const counts = new Array<number>(CLIENTS).fill(0)
  let refused = 0
  const first = Number((await fetch(`${url}/api/levels/${id}`)).headers.get('etag')!.replaceAll('"', ''))
  await Promise.all(
    counts.map(async (_, c) => {
      let revision = first
      for (let k = 0; performance.now() < until; k++) {
        const ops = [{ op: 'replace', path: place(c, k), value: [c, k % 100, 0] }]
        const answer = await sendPatch<{ revision: number; others?: Revision[] }>(url, id, revision, randomUUID(), ops)
        revision = answer.body.revision
        if (answer.status === 200) counts[c]++
        else if (answer.status === 412) refused++
        else throw new Error(`an edit was answered with ${answer.status}`)
      }
    }),
  )
  const all = counts.reduce((a, b) => a + b, 0)
  return { perSecond: all / CLIENTS_S, least: Math.min(...counts) / (all / CLIENTS), refused }
}

/** What a save costs, and how many can work on one level. */
export async function benchSaves(): Promise<void> {
  const served = await serve()
  try {
    const levels: [string, Level, number | undefined][] = [
      ['an empty level', blankLevel('Empty'), undefined],
      ['Lanternquay', DEMO_LEVELS[0].make(), undefined],
      ['Wide Sallow, 20,000 waypoints', DEMO_LEVELS.find((d) => d.slug === 'wide-sallow')!.make(), 3],
      ['190,000 waypoints', manyPoints(190_000), 10],
    ]
    let reference = 0
    const ids: string[] = []
    for (const [what, level, times] of levels) {
      const health = watchHealth(served.url)
      const id = await post(served.url, level)
      ids.push(id)
      const began = performance.now()
      await sendPatch(served.url, id, 1, randomUUID(), [])
      const firstMs = performance.now() - began
      const figures = await saves(served, id, level)
      const waits = await health.stop()
      const median = quantile(figures, 0.5)
      reference ||= median
      report({
        what: `one save, ${what}: median`,
        measured: median,
        unit: 'ms',
        budget: times === undefined ? undefined : reference * times,
        reference: `95th ${quantile(figures, 0.95).toFixed(1)} ms; first, read from the database, ${firstMs.toFixed(0)} ms; an empty level ${reference.toFixed(1)} ms`,
      })
      report({
        what: `the same: longest wait for health meanwhile`,
        measured: Math.max(...waits),
        unit: 'ms',
        budget: 50,
        reference: `${waits.length} asked, median ${quantile(waits, 0.5).toFixed(1)} ms`,
      })
    }
    for (const [k, own, budget] of [
      [1, true, 200],
      [1, false, undefined],
      [2, true, 50],
      [2, false, 50],
    ] as const) {
      const [what, level] = levels[k]
      const health = watchHealth(served.url)
      const { perSecond, least, refused } = await crowd(served, ids[k], level, own)
      const waits = await health.stop()
      report({
        what: `${CLIENTS} clients, ${what}, ${own ? 'each its own' : 'any'}: edits a second`,
        measured: perSecond,
        unit: '/s',
        budget,
        less: false,
        reference: `${refused} refused as late`,
      })
      report({
        what: 'the same: the slowest client, of the average',
        measured: least,
        unit: '×',
        budget: 0.5,
        less: false,
      })
      report({
        what: 'the same: longest wait for health',
        measured: Math.max(...waits),
        unit: 'ms',
        budget: 50,
        reference: `median ${quantile(waits, 0.5).toFixed(1)} ms`,
      })
    }
  } finally {
    await served.stop()
  }
}
