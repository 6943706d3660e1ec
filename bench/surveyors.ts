import type { Level } from '@tidytrail/core/level'
import { Crew, makeSurveyor, type Tiler } from '@tidytrail/web'
import { wrap } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { Worker } from 'node:worker_threads'

/**
 * Lets the page's surveyor work levels through one after the other, in this thread and one more.
 * @returns for each the time to its report, ms
 */
export async function surveyedByTwo(levels: readonly Level[], profileId: string): Promise<number[]> {
  const thread = new Worker(new URL('./thread.mjs', import.meta.url), { workerData: './tiler-thread.ts' })
  // Only between turns of the loop does Node look at what other threads have sent.
  const breathe = () => new Promise<void>((resolve) => setImmediate(resolve))
  const surveyor = makeSurveyor(breathe, undefined, new Crew(wrap<Tiler>(nodeEndpoint(thread))))
  let told = (_stamp: number) => {}
  surveyor.hush(true)
  surveyor.watch([profileId])
  surveyor.start({
    report: ({ stamp }) => told(stamp),
    picture: () => {},
    offers: () => {},
    progress: () => {},
    failed: (why) => {
      throw new Error(why)
    },
    news: () => {},
    runFailed: () => {},
  })
  const times: number[] = []
  for (const [k, level] of levels.entries()) {
    const began = performance.now()
    await new Promise<void>((resolve) => {
      told = (stamp) => stamp === k && resolve()
      surveyor.setLevel(level, k)
    })
    times.push(performance.now() - began)
    // The report is told before the surveyor comes to rest.
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
  await thread.terminate()
  return times
}
