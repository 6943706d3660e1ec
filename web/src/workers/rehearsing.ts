import type { Level, PatchOp } from '@tidytrail/core/level'
import {
  framesTo,
  placedForPlan,
  PlanSteering,
  recordedOf,
  Run,
  straying,
  type Command,
} from '@tidytrail/core/rehearsal'
import type { Survey } from '@tidytrail/core/survey'
import { transfer } from 'comlink'
import { heatMap } from './heat-map'
import type { AgentInfo, Judged, Rehearser, RunListener, RunNews } from './rehearsal.protocol'
import { wordsOf } from './words-of'

/** Longest piece of work at a time, ms: edits and questions wait no longer than this. */
const SLICE_MS = 10
/** Time between pieces of news at the beginning, and later, ms. */
const NEWS_MS = 60
/** So many verdicts are kept of a run at most: where there are many agents they are judged less often. */
const MOST_VERDICTS = 40_000

/** What rehearses in the surveyor's thread, over the very reach maps the surveyor has. */
export interface Rehearsing extends Rehearser {
  start(listener: RunListener): void
  /** The level is about to change: the run goes back to the moment somebody is looking at. */
  beforeEdit(patch: readonly PatchOp[]): void
  /** The survey knows the changed level: the run takes it in. */
  edited(level: Level): void
}

/**
 * @param breathe lets waiting messages in
 * @param surveying is the survey being worked on, and not to be asked?
 * @param rested a run has come to its end, and the thread is free
 */
export function makeRehearsing(
  survey: Survey,
  breathe: () => Promise<void>,
  surveying: () => boolean,
  levelNow: () => Level | undefined,
  rested: () => void = () => {},
): Rehearsing {
  let listener: RunListener | undefined
  let run: Run | undefined
  let number = -1
  let seconds = 0
  let look = 0
  /** What has changed of the level since the run last took it in. */
  let waiting: PatchOp[] = []
  /** What the page knows of the run. */
  let told = { frames: 0, agents: 0, events: 0, verdicts: 0 }
  let judged: Judged[] = []
  /** What the stand-in is steered by, where it plays a plan. */
  let steering: PlanSteering | undefined
  let going = false

  function cut(): void {
    if (!run) return
    const { recording, members, events } = run.engine
    judged = judged.filter((j) => j.t <= run!.t + 1e-9)
    told = {
      verdicts: Math.min(told.verdicts, judged.length),
      frames: Math.min(told.frames, recording.frameCount),
      agents: Math.min(told.agents, members.length),
      events: Math.min(told.events, events.list.length),
    }
  }

  function infoOf(of: Run, from: number): AgentInfo[] {
    return of.engine.members.slice(from).map((m) => {
      const spawner = of.level.spawners[m.spawnerId]
      const profile = of.level.profiles[m.profileId]
      const row = of.engine.scenario.spawners[of.engine.registers.spawners.of(m.spawnerId)]
      const told = row?.variants[m.variant] ?? row?.variants[0]
      return {
        key: m.key,
        id: m.id,
        name: m.name,
        spawnerId: m.spawnerId,
        routeId: told?.steps.find((s) => s.route)?.routeId ?? null,
        profileId: m.profileId,
        profileName: profile?.name ?? '',
        factionId: told?.faction ?? null,
        radiusM: profile?.radiusM ?? 0.3,
        standIn: spawner?.standIn ?? false,
        appearedS: m.appearedS,
        briefId: told?.briefId ?? null,
      }
    })
  }

  function tell(of: Run, atEnd: boolean): void {
    const { recording, events } = of.engine
    const news: RunNews = {
      run: number,
      from: told.frames,
      // A copy of its own: the page is given these bytes for good.
      chunks: recording.chunksFrom(told.frames).map((c) => ({ ...c, bytes: c.bytes.slice() })),
      t: of.t,
      agents: { from: told.agents, list: infoOf(of, told.agents) },
      events: { from: told.events, list: events.list.slice(told.events) },
      verdicts: { from: told.verdicts, list: judged.slice(told.verdicts) },
      marks: of.commands.map((c) => ({ t: c.step * of.engine.scenario.stepS, what: c.do })),
      routes: of.engine.registers.routes.ids,
      posts: of.engine.registers.posts.ids,
      profiles: of.engine.registers.profiles.ids,
      hash: atEnd ? of.hash : undefined,
    }
    told = {
      frames: recording.frameCount,
      agents: of.engine.members.length,
      events: events.list.length,
      verdicts: judged.length,
    }
    listener?.news(
      transfer(
        news,
        news.chunks.map((c) => c.bytes.buffer),
      ),
    )
  }

  /** Judges every second of the run, or less often where there are many; and at its end. */
  function judgeWhenDue(of: Run): void {
    const last = judged.at(-1)
    const everyS = Math.max(1, (of.engine.members.length * seconds) / MOST_VERDICTS)
    if (last && of.t < last.t + everyS - 1e-9 && of.t < seconds - 1e-9) return
    judged.push({ t: of.t, verdicts: of.verdicts() })
  }

  async function goOn(): Promise<void> {
    if (going) return
    going = true
    const of = () => run
    try {
      let first = true
      let lastTold = 0
      for (;;) {
        const mine = of()
        if (!mine) break
        if (surveying()) {
          await breathe()
          continue
        }
        const began = performance.now()
        while (mine.t < seconds - 1e-9 && performance.now() - began < SLICE_MS) {
          steering?.steer(mine)
          mine.next()
          judgeWhenDue(mine)
        }
        const atEnd = mine.t >= seconds - 1e-9
        if (first || atEnd || performance.now() - lastTold > NEWS_MS) {
          tell(mine, atEnd)
          first = false
          lastTold = performance.now()
        }
        if (atEnd && of() === mine) break
        await breathe()
      }
    } catch (error) {
      run = undefined
      listener?.runFailed(number, wordsOf(error))
    } finally {
      going = false
      rested()
    }
  }

  /** Does something to the run at the moment that is looked at. */
  function perform(command: Command): void {
    if (!run || surveying()) return
    run.backTo(run.momentNear(look))
    cut()
    run.perform(command)
    void goOn()
  }

  return {
    start(to) {
      listener = to
    },
    begin(of, seed, length, plan) {
      steering = plan && new PlanSteering(plan)
      number = of
      seconds = length
      look = 0
      waiting = []
      told = { frames: 0, agents: 0, events: 0, verdicts: 0 }
      judged = []
      run = undefined
      const wait = async () => {
        while (number === of && (surveying() || !levelNow())) await breathe()
        const level = levelNow()
        if (!level || number !== of) return
        try {
          run = new Run((plan && placedForPlan(level, plan)) ?? level, seed, survey)
          judgeWhenDue(run)
          // Who is there from the first moment on is shown before anybody has to find a way.
          tell(run, false)
        } catch (error) {
          listener?.runFailed(of, wordsOf(error))
          return
        }
        void goOn()
      }
      void wait()
    },
    lookAt(t) {
      look = t
    },
    beforeEdit(patch) {
      if (!run) return
      waiting.push(...patch)
      // While the survey is being worked on it has been done already.
      if (surveying()) return
      run.backTo(run.momentNear(look))
      cut()
    },
    edited(level) {
      if (!run) return
      try {
        run.takeIn(level, waiting)
        waiting = []
        void goOn()
      } catch (error) {
        run = undefined
        listener?.runFailed(number, wordsOf(error))
      }
    },
    goOnFrom(t) {
      if (!run || surveying()) return
      look = t
      run.backTo(t)
      cut()
      void goOn()
    },
    steer(agent, x, y, mps) {
      perform(mps < 0 ? { step: 0, do: 'let-go', agent } : { step: 0, do: 'steer', agent, x, y, mps })
    },
    makeNoise(agent) {
      perform({ step: 0, do: 'noise', agent })
    },
    giveUp() {
      run = undefined
      number = -1
    },
    script: () => run && { seed: run.seed, seconds, commands: run.commands },
    async heat(t) {
      const of = run
      if (!of) return undefined
      const { recording } = of.engine
      const count = Math.min(framesTo(t), recording.frameCount)
      return heatMap(
        of.level,
        (k) => recording.frame(k),
        count,
        breathe,
        () => run === of,
      )
    },
    straying: (t) => (run && !surveying() ? straying(recordedOf(run), (id) => survey.plannerFor(id), framesTo(t)) : []),
  }
}
