import {
  company,
  compareFigures,
  coverage,
  Examined,
  lookerKeys,
  parting,
  runFigures,
  stringLine,
  suggestTrials,
  tryAll,
  widen,
} from '@tidytrail/core/insight'
import { provideAsset } from '@tidytrail/core/ground'
import { areaOf, type Level } from '@tidytrail/core/level'
import { legPath, legsOf } from '@tidytrail/core/network'
import {
  framesTo,
  PackedFrames,
  positionsCsv,
  recordedOf,
  Run,
  straying,
  type Recorded,
} from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { heatMap } from './heat-map'
import type { Found, Insighter } from './insight.protocol'

/** Who finds things out about a rehearsal: in a thread of its own, so that nothing else waits for it. */
export function makeInsighter(breathe: () => Promise<void>): Insighter {
  let of: Examined | undefined
  let survey: { readonly of: Survey; readonly level: Level } | undefined
  /** Goes up when what takes long is to end. */
  let turn = 0

  /** The reach of a level, worked out when it is first needed; what is found does not change where one may go. */
  function surveyOf(level: Level): Survey {
    if (survey?.level !== level) {
      const made = survey?.of ?? new Survey()
      made.update(level)
      survey = { of: made, level }
    }
    return survey.of
  }
  function rehearse(level: Level, seed: number, seconds: number): { of: Examined; hash: string } {
    const run = new Run(level, seed, surveyOf(of?.level ?? level))
    run.runTo(seconds)
    return { of: new Examined(recordedOf(run), run.verdicts()), hash: run.hash }
  }

  return {
    give: (hash, bytes) => provideAsset(hash, bytes),
    load({ chunks, verdicts, ...run }) {
      turn++
      const frames = new PackedFrames(chunks)
      const recorded: Recorded = { ...run, frameCount: frames.frameCount, frame: frames.frame }
      of = new Examined(recorded, verdicts)
    },
    async find({ spots, lines, trials, traffic }) {
      const mine = of
      const found = { spots: {}, lines: {}, trials: [], traffic: undefined } as {
        spots: Record<string, Found['spots'][string]>
        lines: Record<string, Found['lines'][string]>
        trials: Found['trials']
        traffic: Found['traffic']
      }
      if (!mine) return found
      for (const id of spots) if (mine.level.watchSpots[id]) found.spots[id] = mine.spot(id)
      for (const id of lines) {
        if (!mine.level.sneakLines[id]) continue
        await breathe()
        found.lines[id] = mine.line(id)
      }
      await breathe()
      if (trials) found.trials = tryAll(mine)
      await breathe()
      if (traffic) found.traffic = mine.traffic()
      return found
    },
    coverage(factionIds, zoneId) {
      const zone = of?.level.zones[zoneId ?? '']
      const area = of && zone && areaOf(of.level, zone)
      return of && coverage(of.recorded, { factionIds, ...(area && { area }) })
    },
    company: (factionIds) => of && company(of.recorded, lookerKeys(of.recorded, factionIds)),
    stringLine(routeId, ways) {
      if (!of) return undefined
      const { recorded, level } = of
      const planners = ways ? undefined : surveyOf(level)
      return stringLine(recorded, routeId, (id, profileId, from, to) => {
        const planner = planners?.plannerFor(profileId)
        if (planner) {
          const way = legPath(planner, level.routes[id], level.waypoints, from, to)
          return way.found ? way.line : undefined
        }
        const legs = legsOf(level.routes[id])
        const ahead = ways?.[legs.findIndex((leg) => leg.from === from && leg.to === to)]
        // The other way round it is the same way.
        return ahead ?? ways?.[legs.findIndex((leg) => leg.from === to && leg.to === from)]?.toReversed()
      })
    },
    async heat(t) {
      const mine = of?.recorded
      return mine && heatMap(mine.level, mine.frame, Math.min(framesTo(t), mine.frameCount), breathe, () => of?.recorded === mine) // prettier-ignore
    },
    straying: (t) => (of ? straying(of.recorded, surveyOf(of.level).plannerFor, framesTo(t)) : []),
    positions: () => of && positionsCsv(of.recorded),
    suggestTrials: () => (of ? suggestTrials(of) : []),
    async widen(wish, tell) {
      const mine = ++turn
      const before = of
      if (!before) return undefined
      const seconds = before.seconds
      const { seed } = before.recorded
      const search = widen(before, wish, (level) => rehearse(level, seed, seconds).of)
      for (;;) {
        const step = search.next()
        if (turn !== mine) return undefined
        if (step.done) return step.value
        tell(step.value)
        await breathe()
        if (turn !== mine) return undefined
      }
    },
    async seeds(seeds, seconds, tell) {
      const mine = ++turn
      const level = of?.level
      if (!level) return false
      for (const seed of seeds) {
        const { of: examined, hash } = rehearse(level, seed, seconds)
        tell(runFigures(examined, hash))
        await breathe()
        if (turn !== mine) return false
      }
      return true
    },
    compare({ chunks, verdicts, ...run }, otherHash, hash, chance) {
      if (!of) return undefined
      const frames = new PackedFrames(chunks)
      const other: Recorded = { ...run, frameCount: frames.frameCount, frame: frames.frame }
      return {
        parting: parting(other, of.recorded),
        figures: compareFigures(runFigures(new Examined(other, verdicts), otherHash), runFigures(of, hash), chance),
      }
    },
    cancel() {
      turn++
    },
  }
}
