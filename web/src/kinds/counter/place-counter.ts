import { distance2, toMillimetre } from '@tidytrail/core/geometry'
import { addThing, counterSchema, freshName, type Level } from '@tidytrail/core/level'
import { laneNet, nearestM, placeAt } from '@tidytrail/core/traffic'
import { randomId } from '../../stores/random-id'
import type { MakeTool } from '../../tools/tool'

/** A lane is meant that lies no farther than this from the pointer, metres, or so many pixels. */
const NEAR_M = 3
const NEAR_PX = 14

/** The lane next to a place, and how far along it that is. */
export function laneUnder(
  level: Level,
  x: number,
  y: number,
  withinM: number,
): { laneId: string; atM: number } | undefined {
  let best = withinM
  let found: { laneId: string; atM: number } | undefined
  for (const lane of laneNet(level).lanes.values()) {
    const m = nearestM(lane, [x, y, 0])
    const off = distance2(placeAt(lane.line, m), [x, y, 0])
    if (off > best) continue
    best = off
    found = { laneId: lane.id, atM: toMillimetre(m) }
  }
  return found
}

/** Places counters on lanes, one after the other. */
export const counterTool: MakeTool = (ctx) => ({
  id: 'counter',
  label: 'Counter',
  key: 'n',
  stages: ['rehearse'],
  places: ['counters'],
  hint: 'Click on a lane, to count who passes there: flow, speed, density and headways. Escape ends.',
  cursor: 'crosshair',
  down: () => true,
  up(p) {
    const { doc } = ctx.levels
    const place = laneUnder(doc, p.x, p.y, Math.max(NEAR_M, NEAR_PX / ctx.view.scale))
    if (!place) {
      ctx.sheet.hint = 'No lane is there. A counter stands on a lane.'
      return
    }
    const id = randomId('counters')
    const thing = counterSchema.parse({ name: freshName(doc.counters, 'Counter'), ...place })
    ctx.levels.perform(addThing, { in: 'counters', id, thing })
    ctx.sheet.choose([id])
  },
})
