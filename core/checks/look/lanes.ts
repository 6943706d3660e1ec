import type { Junction } from '@tidytrail/core/level'
import {
  comersOf,
  endsBeside,
  turnNeedsM,
  turnsRoundInto,
  lanesBeside,
  narrowsOfRoad,
  widestOn,
  usualPhases,
  watchOf,
  yieldIn,
  usualYields,
  waysOf,
  wayTo,
  type CrossingAt,
  type JunctionSite,
  type LaneOverlap,
  type NetLane,
  type NetMove,
  type Pair,
  type Suggestion,
  type Watch,
  type Way,
} from '@tidytrail/core/traffic'
import type { SurveyView } from '@tidytrail/core/survey'
import type { Notes } from './notes'

/** What is read of lanes, how they join, and where ways conflict. */
export class LookAtLanes {
  constructor(private readonly notes: Notes) {}

  /** A lane as it is driven along; undefined for what is none. */
  lane(routeId: string): NetLane | undefined {
    return this.notes.note('lanes', (v) => v.relations.lanes.lanes.get(routeId))
  }

  /** The way a link is from one lane into another. */
  move(linkId: string): NetMove | undefined {
    return this.notes.note('lanes', (v) => v.relations.lanes.moves.get(linkId))
  }

  /** The ways out of a lane, and those into it. */
  out(routeId: string): readonly NetMove[] {
    return this.notes.note('lanes', (v) => v.relations.lanes.out.get(routeId)) ?? []
  }
  into(routeId: string): readonly NetMove[] {
    return this.notes.note('lanes', (v) => v.relations.lanes.into.get(routeId)) ?? []
  }

  /** The profiles of those who may come along a lane, sorted by id. */
  comers(routeId: string): readonly string[] {
    const read = ({ level, relations: { lanes, bodies } }: SurveyView) =>
      [...(comersOf(lanes, level.spawners, bodies).get(routeId) ?? [])].sort().join(' ')
    this.notes.note('lanes', read)
    this.notes.note('bodies', read)
    return this.notes.note('spawners', read).split(' ').filter(Boolean)
  }

  /** Does a lane end beside one that leads on, into which those on it change? */
  endsBeside(routeId: string): boolean {
    return this.notes.note('lanes', (v) => endsBeside(v.relations.lanes, routeId))
  }

  /** Does any way lead from the beginning of a lane to another, over changes of lanes too? */
  leadsTo(routeId: string, goalId: string): boolean {
    return this.notes.note('lanes', (v) => {
      const net = v.relations.lanes
      const beside = lanesBeside(net).get(routeId) ?? []
      const from = [routeId, ...beside.map((b) => b.id)]
      return from.some((id) => wayTo(net, goalId).along(id, 0) < Infinity)
    })
  }

  /** The lane into which those who come to the end of one can turn round, and how wide that has to be, metres. */
  turnsRound(routeId: string): { readonly into: string; readonly turnM: number } | undefined {
    const into = this.notes.note('lanes', (v) => turnsRoundInto(v.relations.lanes, routeId)?.id)
    if (into === undefined) return undefined
    const turnM = this.notes.note('profiles', (v) => turnNeedsM(v.level, [routeId, into]))
    return { into, turnM }
  }

  /** What decides whether those who meet on a track can pass, of the lane that leads ahead along it; undefined for others. */
  track(routeId: string): Track | undefined {
    const read = ({ level, relations: { lanes } }: SurveyView) => {
      const lane = lanes.lanes.get(routeId)
      if (!lane?.roadId || lane.key !== 'a1' || !level.roads[lane.roadId]?.track) return ''
      const narrows = narrowsOfRoad(level, lanes, lane.roadId)
      // A passing place that is too short for anybody lies within a narrow.
      const lost = level.roads[lane.roadId].passing.filter(({ fromM, toM }) =>
        narrows.some(({ sides: [a] }) => a.fromM < (fromM + toM) / 2 && a.toM > (fromM + toM) / 2),
      )
      const between = [...narrows.slice(1).map((n) => n.sides[1].roomM), ...lost.map(() => 0)]
      const ends = narrows.length > 0 ? [narrows[0].sides[1].roomM, narrows[narrows.length - 1].sides[0].roomM] : []
      return JSON.stringify({ between, ends, bodyM: widestOn(level, routeId) })
    }
    this.notes.note('lanes', read)
    const told = this.notes.note('profiles', read)
    return told === '' ? undefined : (JSON.parse(told) as Track)
  }

  /** Joins a lane nearly makes at its end. */
  joins(routeId: string): readonly Suggestion[] {
    return this.notes.note('joins', (v) => v.relations.joins.get(routeId)) ?? []
  }

  /** All lanes that are drawn backwards. */
  backwards(): readonly string[] {
    return this.notes.note('backwards', (v) => v.relations.backwards)
  }

  /** Lanes that lie over one, where it comes first of both. */
  overlaps(routeId: string): readonly LaneOverlap[] {
    return this.notes.note('overlaps', (v) => v.relations.overlaps.get(routeId)) ?? []
  }

  /** Ways of a junction that cannot be used at once. */
  pairs(junctionId: string): readonly Pair[] {
    return this.notes.note('pairs', (v) => v.relations.pairs.get(junctionId)) ?? []
  }

  /** The crossings at a junction with signals. */
  crossings(junctionId: string): readonly CrossingAt[] {
    return this.notes.note('walked', (v) => v.relations.walked.get(junctionId)) ?? []
  }

  /** What is watched at a junction by those of whom it was said how far, and what they need. */
  watches(junctionId: string): WatchedPair[] {
    return this.pairs(junctionId).flatMap((pair) => {
      const waits = yieldIn(pair)
      // As far as is needed is far enough.
      if (!waits || waits.watchM === null) return []
      const read = ({ level, relations }: SurveyView) => {
        const { stretches: _, ...figures } = watchOf(level, relations.lanes, pair)!
        return JSON.stringify(figures)
      }
      this.notes.note('lanes', read)
      const watch = JSON.parse(this.notes.note('profiles', read)) as Omit<Watch, 'stretches'>
      const [x, y, z = 0] = pair.conflicts[0].at
      return [{ who: waits.own.id, to: waits.other.id, at: [x, y, z], ...watch }]
    })
  }

  /** Where junctions are missing, of which a lane is the first to lead there. */
  sites(routeId: string): readonly JunctionSite[] {
    return this.notes.note('sites', (v) => v.relations.sites.get(routeId)) ?? []
  }

  /** Joins others nearly make into a lane. */
  joinsInto(routeId: string): readonly Suggestion[] {
    return this.notes.note('joinsInto', (v) => v.relations.joinsInto.get(routeId)) ?? []
  }

  /** The ways through a junction. */
  ways(junctionId: string): readonly Way[] {
    const read = (v: SurveyView) => {
      const junction = v.level.junctions[junctionId]
      return junction ? waysOf(v.level, v.relations.lanes, junction) : []
    }
    // What counts of them is which there are: noted as one word, so that a change of it is seen.
    this.notes.note('lanes', (v) =>
      read(v)
        .map((w) => w.id)
        .join(' '),
    )
    return read(this.notes.view)
  }

  /** Who gives way to whom at a junction as it mostly is, with what is said already. */
  usualYields(junction: Junction): Junction['yields'] {
    const made = this.notes.note('lanes', (v) => JSON.stringify(usualYields(v.level, v.relations.lanes, junction)))
    return JSON.parse(made) as Junction['yields']
  }

  /** Stages in which each way of a junction has green once. */
  usualPhases(junctionId: string): Junction['phases'] {
    this.crossings(junctionId)
    const made = this.notes.note('lanes', (v) => {
      const junction = v.level.junctions[junctionId]
      return JSON.stringify(junction ? usualPhases(v.level, v.relations.lanes, junction) : [])
    })
    return JSON.parse(made) as Junction['phases']
  }
}

/** One that gives way to another, how far it watches that, and how far it needs to. */
export interface WatchedPair extends Omit<Watch, 'stretches'> {
  readonly who: string
  readonly to: string
  readonly at: [number, number, number]
}

/** How much room there is between the narrows of a track and at its ends, and the widest body that may come along, metres. */
export interface Track {
  readonly between: readonly number[]
  readonly ends: readonly number[]
  readonly bodyM: number
}
