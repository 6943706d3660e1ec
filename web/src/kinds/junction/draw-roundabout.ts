import { distance2, toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import { addAndSet, freshName } from '@tidytrail/core/level'
import { armsOfRing, roundaboutAt } from '@tidytrail/core/traffic'
import { label, X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import type { MakeTool } from '../../tools/tool'
import { count, metres } from '../../ui/figures'
import { ringing } from './ring-options'
import RingOptions from './RingOptions.vue'

/** A ring is no smaller and no larger than this, metres. */
const LEAST_M = 6
const MOST_M = 200
const CLOSE_PX = 10

/** Draws a roundabout: its middle, then how wide it is; all roads that end there are joined to it. */
export const roundaboutTool: MakeTool = (ctx) => {
  let middle: Point3 | undefined
  let over: Point3 | undefined
  const placed = (): [number, number, number] => middle!.map(toMillimetre) as [number, number, number]
  const radius = (at: Point3): number => Math.min(MOST_M, Math.max(LEAST_M, Math.round(2 * distance2(middle!, at)) / 2))

  function make(radiusM: number): void {
    const { doc } = ctx.levels
    const laneId = randomId('routes')
    const junctionId = randomId('junctions')
    const name = freshName(doc.routes, 'Ring')
    const made = roundaboutAt(doc, { at: placed(), radiusM, widthM: ringing.widthM, name, laneId, junctionId })
    if ('why' in made) {
      ctx.sheet.hint = made.why
      return
    }
    middle = undefined
    const label = `Add a roundabout of ${count(made.arms, 'arm')}`
    ctx.levels.perform(addAndSet, { add: made.add, set: [], label })
    ctx.sheet.choose([junctionId])
    ctx.redraw()
  }

  return {
    id: 'roundabout',
    label: 'Roundabout',
    key: 'e',
    stages: ['routes'],
    options: RingOptions,
    hint: 'Click the middle, then how far out the ring is to be, or Enter for the radius above. Roads that end within reach are joined to it.',
    cursor: 'crosshair',
    busy: () => middle !== undefined,
    down: () => true,
    up(p) {
      if (!middle) middle = p.at
      else if (distance2(middle, p.at) * ctx.view.scale > CLOSE_PX) make(radius(p.at))
      over = p.at
      ctx.redraw()
    },
    move(p) {
      over = p.at
      ctx.redraw()
    },
    press(key) {
      if (!middle) return false
      if (key === 'Enter') make(ringing.radiusM)
      else if (key === 'Escape' || key === 'Backspace') middle = undefined
      else return false
      ctx.redraw()
      return true
    },
    draw(pen) {
      if (!middle) return
      const { c, inks, view } = pen
      const drawn = over && distance2(middle, over) * view.scale > CLOSE_PX
      const radiusM = drawn ? radius(over!) : ringing.radiusM
      const arms = armsOfRing(ctx.levels.doc, placed(), radiusM)
      const [x, y] = [X(pen, middle[0]), Y(pen, middle[1])]
      c.strokeStyle = typeof arms === 'string' ? inks.colour.alarm : inks.colour.rust
      c.lineWidth = 2
      c.setLineDash([6, 4])
      c.beginPath()
      c.arc(x, y, radiusM * view.scale, 0, 2 * Math.PI)
      c.stroke()
      c.setLineDash([])
      c.strokeRect(x - 4, y - 4, 8, 8)
      const words = typeof arms === 'string' ? arms : `${metres(radiusM)}, ${count(arms, 'arm')}`
      label(pen, words, x, y - radiusM * view.scale - 14, { size: 11 })
    },
    leave() {
      middle = undefined
      over = undefined
    },
  }
}
