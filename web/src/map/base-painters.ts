import { terrainOf } from '@tidytrail/core/ground'
import type { useCastStore } from '../stores/cast'
import type { useInsightStore } from '../stores/insight'
import type { useLevelStore } from '../stores/level'
import type { useRehearsalStore } from '../stores/rehearsal'
import type { useSheetStore } from '../stores/sheet'
import type { useSurveyStore } from '../stores/survey'
import type { useTravelStore } from '../stores/travel'
import type { useWatchingStore } from '../stores/watching'
import type { Painter } from './layer'
import { drawAgents } from './layers/agents'
import { drawBriefTags } from './layers/brief-tags'
import { drawSpawnPlaces } from './layers/spawn-places'
import { drawFindings } from './layers/findings'
import { drawGhosts, drawRebuilding, drawRunner, drawSketch, drawCrosshair } from './layers/ghosts'
import { drawFrame, drawGrid, drawGround } from './layers/ground'
import { drawCoverage, drawPointed, drawWhy } from './layers/insight'
import { drawReach } from './layers/reach'
import { allOf } from './sliced'
import { drawPeg } from './peg'
import { label, X, Y } from './pen'
import { drawPerceived, drawSenses, Wedges } from './layers/senses'
import { drawEarlier, drawFork, drawHeat, drawHeldBy, drawStraying, drawWants } from './layers/watched'

/** The stores what is drawn beside things is read from. */
export interface MapStores {
  readonly cast: ReturnType<typeof useCastStore>
  readonly levels: ReturnType<typeof useLevelStore>
  readonly sheet: ReturnType<typeof useSheetStore>
  readonly survey: ReturnType<typeof useSurveyStore>
  readonly rehearsal: ReturnType<typeof useRehearsalStore>
  readonly travel: ReturnType<typeof useTravelStore>
  readonly watching: ReturnType<typeof useWatchingStore>
  readonly insight: ReturnType<typeof useInsightStore>
}

/** The run before is shown of so many agents at most. */
const MOST_EARLIER = 400

/** All that is drawn that is not a kind of thing. @param paper what lies right on the paper of the sheet */
export function basePainters(
  { cast, levels, sheet, survey, rehearsal, travel, watching, insight }: MapStores,
  paper: readonly Painter[],
): Painter[] {
  const wedges = new Wedges()
  /** Where everybody is at the moment looked at. */
  const present = () =>
    rehearsal.agents.flatMap((agent) => {
      const now = rehearsal.recording.moment(agent.key, rehearsal.t)
      return now ? [{ agent, now }] : []
    })
  return [
    {
      on: 'under',
      order: 0,
      draw: (pen, scene) =>
        drawGround(pen, scene.level, scene.isShown('contours'), () => {
          for (const painter of paper)
            if (!painter.layer || scene.isShown(painter.layer)) allOf(painter.draw(pen, scene))
        }),
    },
    { on: 'under', order: 20, layer: 'grid', draw: (pen, { level }) => drawGrid(pen, level) },
    {
      on: 'under',
      order: 40,
      layer: 'reach',
      *draw(pen, { stage }) {
        const reach = survey.profileId ? survey.reach.get(survey.profileId) : undefined
        if (reach) yield* drawReach(pen, reach, stage === 'reach')
      },
    },
    { on: 'under', order: 50, draw: (pen, { level }) => drawFrame(pen, level) },
    { on: 'over', order: 10, draw: (pen) => drawRebuilding(pen, survey.rebuilding) },
    {
      // Over the routes, whose lines would hide where they are followed.
      on: 'top',
      order: 58,
      draw(pen, { level }) {
        if (!rehearsal.begun) return
        if (watching.heat) drawHeat(pen, watching.heat)
        if (watching.strayed.length > 0) drawStraying(pen, watching.strayed, level.settings.limits.crossTrackM)
      },
    },
    {
      on: 'over',
      order: 39,
      stage: 'cast',
      layer: 'spawners',
      draw: (pen, { level, chosen }) => drawSpawnPlaces(pen, level, cast.facts.spawners, chosen),
    },
    {
      on: 'over',
      order: 59,
      stage: 'cast',
      draw: (pen, { level, alone }) => drawBriefTags(pen, level, alone, cast.pointed),
    },
    {
      on: 'over',
      order: 42,
      stage: 'cast',
      draw(pen) {
        for (const [k, post] of (cast.suggested?.posts ?? []).entries()) {
          drawPeg(pen, post, pen.inks.colour.plum, true)
          label(pen, String(k + 1), X(pen, post.at[0]), Y(pen, post.at[1]) + 17, { size: 11, bold: true })
        }
      },
    },
    { on: 'hand', order: 60, draw: (pen) => drawGhosts(pen, sheet.ghosts) },
    { on: 'hand', order: 61, draw: (pen) => drawSketch(pen, sheet.sketch) },
    {
      on: 'hand',
      order: 63,
      draw(pen) {
        if (sheet.crosshair) drawCrosshair(pen, sheet.crosshair)
        const runner = travel.moment(levels.doc)
        if (runner) drawRunner(pen, runner.at, runner.headingRad, runner.text)
      },
    },
    {
      on: 'top',
      order: 70,
      layer: 'agents',
      draw(pen, { chosen }) {
        if (!rehearsal.begun) return
        const { recording, t, agents, earlier } = rehearsal
        const { on } = watching
        const shown = on.senses || on.wants || chosen.size > 0 ? present() : []
        const lookers = shown.flatMap(({ agent, now }) => {
          const profile = on.senses || chosen.has(agent.id) ? levels.doc.profiles[agent.profileId] : undefined
          return profile ? [{ key: agent.key, profile, now }] : []
        })
        wedges.of(terrainOf(levels.doc), lookers).forEach((wedge, k) => {
          if (wedge) drawSenses(pen, wedge, lookers[k].profile, lookers[k].now)
        })
        if (on.earlier && earlier && t > earlier.from)
          for (const a of agents.slice(0, MOST_EARLIER)) {
            const now = recording.moment(a.key, t)
            drawEarlier(pen, (at) => rehearsal.earlierMoment(a.id, at), now, t, a.radiusM)
            const parted = chosen.has(a.id) ? recording.moment(a.key, earlier.from) : undefined
            if (parted) drawFork(pen, parted)
          }
        if (on.wants)
          drawWants(
            pen,
            shown.map((s) => s.now),
          )
        for (const { agent, now } of shown) {
          const other = chosen.has(agent.id) && now.by > 0 ? recording.moment(now.by, t) : undefined
          if (other) drawHeldBy(pen, now, other)
        }
        drawPerceived(pen, rehearsal.perceived, (key) => recording.moment(key, t))
        // Past the store, whose wrapping of each call would cost more than the call.
        drawAgents(pen, agents, (n, at = t) => recording.moment(agents[n].key, at), t, chosen, levels.doc.factions)
      },
    },
    {
      on: 'top',
      order: 57,
      draw: (pen) => (rehearsal.begun && insight.coverage ? drawCoverage(pen, insight.coverage) : undefined),
    },
    {
      on: 'top',
      order: 75,
      draw(pen) {
        if (!rehearsal.begun) return
        if (insight.whyPath) drawWhy(pen, insight.whyPath)
        if (insight.pointed) drawPointed(pen, insight.pointed)
      },
    },
    {
      on: 'over',
      order: 80,
      layer: 'findings',
      draw: (pen, { findings, chosen }) => drawFindings(pen, findings, chosen),
    },
  ]
}
