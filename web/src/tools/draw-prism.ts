import { ringCrossesItself, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { heightAt, terrainOf } from '@tidytrail/core/ground'
import { addThing, freshName, solidSchema } from '@tidytrail/core/level'
import { toMillimetre } from '@tidytrail/core/geometry'
import { traceLine, X, Y } from '../map/pen'
import { toScreenX, toScreenY } from '../map/viewport'
import { randomId } from '../stores/random-id'
import type { MakeTool } from './tool'

const CLOSE_PX = 10

/** Draws a prism corner by corner. */
export const prismTool: MakeTool = (ctx) => {
  let corners: Point3[] = []
  let over: Point3 | undefined

  function finish(): void {
    const ring = corners.map((p): [number, number] => [p[0], p[1]])
    if (ring.length < 3) {
      ctx.sheet.hint = 'A prism needs at least three corners.'
      return
    }
    if (ringCrossesItself(ring as Point2[])) {
      ctx.sheet.hint = 'The outline crosses itself. Take corners back with Backspace.'
      return
    }
    const level = ctx.levels.doc
    const { field } = terrainOf(level)
    const id = randomId('solids')
    const thing = solidSchema.parse({
      shape: 'prism',
      name: freshName(level.solids, 'Block'),
      ring,
      baseM: toMillimetre(Math.min(...ring.map(([x, y]) => heightAt(field, x, y)))),
      heightM: 3,
    })
    corners = []
    ctx.levels.perform(addThing, { in: 'solids', id, thing })
    ctx.sheet.choose([id])
    ctx.done()
  }

  return {
    id: 'prism',
    label: 'Prism',
    key: 'p',
    stages: ['ground'],
    hint: 'Click corner by corner; a click on the first corner or Enter closes. Backspace takes the last one back.',
    cursor: 'crosshair',
    down: () => true,
    up(p) {
      const first = corners[0]
      if (first && Math.hypot(toScreenX(ctx.view, first[0]) - p.sx, toScreenY(ctx.view, first[1]) - p.sy) < CLOSE_PX)
        return finish()
      corners.push(p.at)
      ctx.redraw()
    },
    move(p) {
      over = p.at
      ctx.redraw()
    },
    doubleClick: () => finish(),
    press(key) {
      if (corners.length === 0) return false
      if (key === 'Enter') finish()
      else if (key === 'Backspace') corners.pop()
      else if (key === 'Escape') corners = []
      else return false
      ctx.redraw()
      return true
    },
    draw(pen) {
      if (corners.length === 0) return
      const { c, inks } = pen
      c.strokeStyle = inks.colour.rust
      c.lineWidth = 2
      c.setLineDash([6, 4])
      c.beginPath()
      traceLine(pen, over ? [...corners, over] : corners, true)
      c.stroke()
      c.setLineDash([])
      for (const [x, y] of corners) {
        c.fillStyle = inks.colour.sheet
        c.beginPath()
        c.rect(X(pen, x) - 4, Y(pen, y) - 4, 8, 8)
        c.fill()
        c.stroke()
      }
    },
    leave() {
      corners = []
      over = undefined
    },
  }
}
