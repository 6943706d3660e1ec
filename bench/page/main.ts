import { changeThings, movePlaces, type EditResult, type Level } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import type { Surveyor, SurveyReport } from '@tidytrail/web'
import { proxy, wrap, type Remote } from 'comlink'

/** What is measured, ms: from an edit to the reach of the profile looked at, and to all reach, ways and findings. */
export interface Measured {
  readonly coldMs: number
  readonly firstMs: number
  readonly edits: Record<string, { pictureMs: number[]; findingsMs: number[] }>
}

/** What is moved to and fro, by the name of the figure: a thing of a level, and by how much. */
export interface Moves {
  readonly slug: string
  readonly profileId: string
  readonly times: number
  readonly moved: Record<string, { id: string; byM: number }>
}

const move = (level: Level, id: string, byM: number): EditResult => {
  const solid = level.solids[id]
  if (!solid) {
    const [x, y, z] = level.waypoints[id].at
    return movePlaces.apply(level, { places: { [id]: [x + byM, y, z] } })
  }
  if (solid.shape === 'prism') throw new Error('a box was expected')
  return changeThings.apply(level, { in: 'solids', changes: { [id]: { at: [solid.at[0] + byM, solid.at[1]] } } })
}

/** Surveys a demo level in workers as the page does, with one thread or two. */
async function measure(threads: 1 | 2, { slug, profileId, times, moved }: Moves): Promise<Measured> {
  const worker =
    threads === 2
      ? new Worker(new URL('../../web/src/workers/surveyor.worker.ts', import.meta.url), { type: 'module' })
      : new Worker(new URL('./alone.worker.ts', import.meta.url), { type: 'module' })
  const surveyor: Remote<Surveyor> = wrap<Surveyor>(worker)
  let stamp = 0
  let pictured = 0
  let told = (_report: SurveyReport) => {}
  await surveyor.start(
    proxy({
      report: (report: SurveyReport) => report.stamp === stamp && told(report),
      picture: (of: number) => {
        if (of === stamp) pictured ||= performance.now()
      },
      offers: () => {},
      progress: () => {},
      failed: (why: string) => console.error(why),
      news: () => {},
      runFailed: () => {},
    }),
  )
  await surveyor.hush(true)
  await surveyor.look(profileId, 0, 0)
  const timed = async (what: (stamp: number) => Promise<void>) => {
    pictured = 0
    const began = performance.now()
    const report = new Promise<SurveyReport>((resolve) => (told = resolve))
    void what(++stamp)
    await report
    const ended = performance.now()
    await new Promise((resolve) => setTimeout(resolve, 30))
    return { pictureMs: (pictured || ended) - began, findingsMs: ended - began }
  }
  let level = DEMO_LEVELS.find((d) => d.slug === slug)!.make()
  const cold = await timed((at) => surveyor.setLevel(level, at))
  const edits: Measured['edits'] = {}
  for (const [name, { id, byM }] of Object.entries(moved)) {
    const [pictureMs, findingsMs]: [number[], number[]] = [[], []]
    for (let k = 0; k < times; k++) {
      const { level: next, patch } = move(level, id, k % 2 ? -byM : byM)
      level = next
      const one = await timed((at) => surveyor.patch([...patch], at))
      // The first few are still being compiled.
      if (k >= times / 6) {
        pictureMs.push(one.pictureMs)
        findingsMs.push(one.findingsMs)
      }
    }
    edits[name] = { pictureMs, findingsMs }
  }
  worker.terminate()
  return { coldMs: cold.findingsMs, firstMs: cold.pictureMs, edits }
}

Object.assign(window, { measure })
