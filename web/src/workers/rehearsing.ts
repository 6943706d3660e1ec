import { Survey } from '@tidytrail/core/survey'
import { provideAsset } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { Rehearsal } from '@tidytrail/core/rehearsal'
import { transfer } from 'comlink'
import type { Rehearser, RehearsalListener } from './rehearser.protocol'
import { wordsOf } from './words-of'

/** Time between batches of frames, ms. */
const SLICE_MS = 30

/** The rehearser: works rehearsals out and tells of them as they come. @param breathe lets waiting messages in */
export function makeRehearser(breathe: () => Promise<void>): Rehearser {
  const survey = new Survey()
  let listener: RehearsalListener | undefined
  let current = 0

  async function perform(run: number, level: Level, seed: number, seconds: number): Promise<void> {
    const began = performance.now()
    let slice = began
    for (const _ of survey.updating(level)) {
      void _
      if (performance.now() - slice < SLICE_MS) continue
      await breathe()
      if (current !== run) return
      slice = performance.now()
    }
    const rehearsal = new Rehearsal(level, seed, survey.plannerFor)
    const { agents } = rehearsal.world
    listener?.agents(
      run,
      agents.map((a) => {
        const follow = a.steps.find((s) => s.kind === 'follow-route')
        return {
          id: a.id,
          name: a.name,
          spawnerId: a.spawnerId,
          routeId: follow?.routeId ?? null,
          profileName: a.profile.name,
          factionId: level.spawners[a.spawnerId].factionId,
          radiusM: a.profile.radiusM,
        }
      }),
    )
    let sent = 0
    const send = () => {
      const frames = rehearsal.recording.frames.slice(sent)
      // What has been sent is the page's; only the hash is kept here.
      listener?.frames(
        transfer(
          { run, first: sent, frames, t: rehearsal.t },
          frames.map((f) => f.buffer),
        ),
      )
      sent = rehearsal.recording.frames.length
    }
    slice = performance.now()
    while (rehearsal.t < seconds - 1e-9) {
      rehearsal.step()
      if (performance.now() - slice < SLICE_MS) continue
      send()
      await breathe()
      if (current !== run) return
      slice = performance.now()
    }
    send()
    listener?.end({
      run,
      seconds,
      seed,
      hash: rehearsal.hash,
      verdicts: rehearsal.verdicts(),
      events: Object.fromEntries(agents.map((a) => [a.id, a.events])),
      tookMs: performance.now() - began,
    })
  }

  return {
    start(to) {
      listener = to
    },
    give(hash, bytes) {
      provideAsset(hash, bytes)
    },
    run(run, level, seed, seconds) {
      current = run
      perform(run, level, seed, seconds).catch((error) => listener?.failed(run, wordsOf(error)))
    },
    stop() {
      current = -1
    },
  }
}
