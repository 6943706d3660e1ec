import { distance2, ringCrossing, toMillimetre, type Point3 } from '@tidytrail/core/geometry'
import { label, traceLine, X, Y } from '../map/pen'
import { toScreenX, toScreenY } from '../map/viewport'
import { metres } from '../ui/figures'
import { squared } from './snapping'
import type { MapPointer, Tool, ToolContext } from './tool'

const CLOSE_PX = 10

type Of = Pick<Tool, 'id' | 'label' | 'key' | 'hint' | 'stages' | 'options' | 'places'> & { what: string }

/** Draws an outline corner by corner; what it becomes is for `finish` to say. */
export const ringTool = (ctx: ToolContext, of: Of, finish: (ring: [number, number][]) => void): Tool =>
  cornerTool(ctx, of, true, (corners) => finish(corners.map(([x, y]) => [x, y])))

/** Draws a line corner by corner, each on the floor there. */
export const lineTool = (ctx: ToolContext, of: Of, finish: (line: [number, number, number][]) => void): Tool =>
  cornerTool(ctx, of, false, finish)

function cornerTool(
  ctx: ToolContext,
  of: Of,
  closed: boolean,
  finish: (corners: [number, number, number][]) => void,
): Tool {
  let corners: Point3[] = []
  let over: Point3 | undefined

  function close(): void {
    const ring = corners.map((p) => p.map(toMillimetre) as [number, number, number])
    if (ring.length < (closed ? 3 : 2)) {
      ctx.sheet.hint = `${of.what} needs at least ${closed ? 'three corners' : 'two places'}.`
      return
    }
    const crossing = closed && ringCrossing(ring.map(([x, y]) => [x, y]))
    if (crossing) {
      ctx.sheet.hint = `The outline crosses itself near ${crossing[0].toFixed(1)}, ${crossing[1].toFixed(1)} m. Take corners back with Backspace.`
      return
    }
    corners = []
    finish(ring)
    ctx.redraw()
  }
  const placeOf = (p: MapPointer): Point3 => {
    const last = corners.at(-1)
    const [x, y] = p.shift && last ? squared(corners.at(-2), last, p.at) : p.at
    return [x, y, p.at[2]]
  }

  return {
    id: of.id,
    label: of.label,
    key: of.key,
    stages: of.stages,
    hint: of.hint,
    options: of.options,
    cursor: 'crosshair',
    snapsTo: 'shapes',
    places: of.places,
    busy: () => corners.length > 0,
    down: () => true,
    up(p) {
      const first = corners[0]
      const at = placeOf(p)
      const nearFirst = (x: number, y: number) =>
        Math.hypot(toScreenX(ctx.view, first[0]) - x, toScreenY(ctx.view, first[1]) - y) < CLOSE_PX
      // Beyond the edge of the level the corner is where it is drawn, not where the pointer is.
      if (
        closed &&
        first &&
        (nearFirst(p.sx, p.sy) || nearFirst(toScreenX(ctx.view, at[0]), toScreenY(ctx.view, at[1])))
      )
        return close()
      const last = corners.at(-1)
      if (last && distance2(last, at) < 0.01) return
      corners.push(at)
      ctx.redraw()
    },
    move(p) {
      over = placeOf(p)
      ctx.redraw()
    },
    doubleClick: () => close(),
    press(key) {
      if (corners.length === 0) return false
      if (key === 'Enter') close()
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
      traceLine(pen, over ? [...corners, over] : corners, closed)
      c.stroke()
      c.setLineDash([])
      for (const [x, y] of corners) {
        c.fillStyle = inks.colour.sheet
        c.beginPath()
        c.rect(X(pen, x) - 4, Y(pen, y) - 4, 8, 8)
        c.fill()
        c.stroke()
      }
      const last = corners.at(-1)!
      if (over) {
        const words = metres(distance2(last, over))
        label(pen, words, X(pen, (last[0] + over[0]) / 2), Y(pen, (last[1] + over[1]) / 2) - 14, { size: 11 })
      }
    },
    leave() {
      corners = []
      over = undefined
    },
  }
}
