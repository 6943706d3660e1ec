import { terrainOf } from '@tidytrail/core/ground'
import type { useLevelStore } from '../stores/level'
import type { useRehearsalStore } from '../stores/rehearsal'
import type { useSheetStore } from '../stores/sheet'
import type { useSurveyStore } from '../stores/survey'
import type { useTravelStore } from '../stores/travel'
import type { Painter } from './layer'
import { drawAgents } from './layers/agents'
import { drawFindings } from './layers/findings'
import { drawGhosts, drawRebuilding, drawRunner, drawSketch, drawCrosshair } from './layers/ghosts'
import { drawFrame, drawGrid, drawGround } from './layers/ground'
import { drawReach } from './layers/reach'
import { drawPerceived, drawSenses } from './layers/senses'

/** The stores what is drawn beside things is read from. */
export interface MapStores {
  readonly levels: ReturnType<typeof useLevelStore>
  readonly sheet: ReturnType<typeof useSheetStore>
  readonly survey: ReturnType<typeof useSurveyStore>
  readonly rehearsal: ReturnType<typeof useRehearsalStore>
  readonly travel: ReturnType<typeof useTravelStore>
}

/** All that is drawn that is not a kind of thing. @param paper what lies right on the paper of the sheet */
export function basePainters(
  { levels, sheet, survey, rehearsal, travel }: MapStores,
  paper: readonly Painter[],
): Painter[] {
  return [
    {
      on: 'under',
      order: 0,
      draw: (pen, scene) =>
        drawGround(pen, scene.level, scene.isShown('contours'), () => {
          for (const painter of paper) if (!painter.layer || scene.isShown(painter.layer)) painter.draw(pen, scene)
        }),
    },
    { on: 'under', order: 20, layer: 'grid', draw: (pen, { level }) => drawGrid(pen, level) },
    {
      on: 'under',
      order: 40,
      layer: 'reach',
      draw(pen, { stage }) {
        const reach = survey.profileId ? survey.reach.get(survey.profileId) : undefined
        if (reach) drawReach(pen, reach, stage === 'reach')
      },
    },
    { on: 'under', order: 50, draw: (pen, { level }) => drawFrame(pen, level) },
    { on: 'over', order: 10, draw: (pen) => drawRebuilding(pen, survey.rebuilding) },
    { on: 'over', order: 60, draw: (pen) => drawGhosts(pen, sheet.ghosts) },
    { on: 'over', order: 61, draw: (pen) => drawSketch(pen, sheet.sketch) },
    {
      on: 'over',
      order: 63,
      draw(pen) {
        if (sheet.crosshair) drawCrosshair(pen, sheet.crosshair)
        const runner = travel.moment(levels.doc)
        if (runner) drawRunner(pen, runner.at, runner.headingRad, runner.text)
      },
    },
    {
      on: 'over',
      order: 70,
      layer: 'agents',
      draw(pen, { chosen }) {
        if (!rehearsal.begun) return
        const { recording, t, agents } = rehearsal
        const terrain = terrainOf(levels.doc)
        for (const a of agents) {
          const now = chosen.has(a.id) ? recording.moment(a.key, t) : undefined
          const profile = levels.doc.profiles[a.profileId]
          if (now && profile) drawSenses(pen, terrain, profile, now)
        }
        drawPerceived(pen, rehearsal.perceived, (key) => recording.moment(key, t))
        drawAgents(pen, agents, rehearsal.moment, t, chosen)
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
