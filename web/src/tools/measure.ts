import { degrees, distance2, lengthOf, type Point3 } from '@tidytrail/core/geometry'
import { steepestAlong, terrainOf } from '@tidytrail/core/ground'
import { label, traceLine, X, Y } from '../map/pen'
import { metres } from '../ui/figures'
import type { MakeTool } from './tool'

/** Measures distance, difference in height and slope along a line of places. */
export const measureTool: MakeTool = (ctx) => {
  let places: Point3[] = []
  let over: Point3 | undefined
  let closed = false
  return {
    id: 'measure',
    label: 'Measure',
    key: 'm',
    stages: ['ground', 'reach', 'routes'],
    hint: 'Click place by place to measure length, height and slope. Enter ends, Escape clears.',
    cursor: 'crosshair',
    snapsTo: 'shapes',
    down: () => true,
    up(p) {
      if (closed) {
        places = []
        closed = false
      }
      places.push(p.at)
      ctx.redraw()
    },
    move(p) {
      over = p.at
      ctx.redraw()
    },
    press(key) {
      if (places.length === 0) return false
      if (key === 'Enter') closed = true
      else if (key === 'Backspace') places.pop()
      else if (key === 'Escape') places = []
      else return false
      ctx.redraw()
      return true
    },
    draw(pen) {
      if (places.length === 0) return
      const { c, inks } = pen
      const line = over && !closed ? [...places, over] : places
      c.strokeStyle = inks.colour.ink
      c.lineWidth = 1.6
      c.setLineDash([1, 4])
      c.lineCap = 'round'
      c.beginPath()
      traceLine(pen, line)
      c.stroke()
      c.setLineDash([])
      for (const at of line) {
        c.fillStyle = inks.colour.sheet
        c.beginPath()
        c.arc(X(pen, at[0]), Y(pen, at[1]), 3.5, 0, 7)
        c.fill()
        c.stroke()
      }
      const { field } = terrainOf(ctx.levels.doc)
      for (let i = 1; i < line.length; i++) {
        const [a, b] = [line[i - 1], line[i]]
        const far = distance2(a, b)
        if (far * pen.view.scale < 50) continue
        label(pen, metres(far), X(pen, (a[0] + b[0]) / 2), Y(pen, (a[1] + b[1]) / 2), { size: 11 })
      }
      if (line.length < 2) return
      const [first, last] = [line[0], line[line.length - 1]]
      const rise = last[2] - first[2]
      const steepest = Math.max(...line.slice(1).map((b, i) => steepestAlong(field, line[i], b).rise))
      const mean = Math.atan2(Math.abs(rise), distance2(first, last) || 1)
      const words = [
        line.length > 2 ? `${metres(lengthOf(line))} in all` : metres(lengthOf(line)),
        `${rise >= 0 ? 'up' : 'down'} ${metres(Math.abs(rise))}`,
        `slope ${degrees(mean).toFixed(1)}°, ground at most ${degrees(Math.atan(steepest)).toFixed(0)}°`,
      ]
      words.forEach((text, k) => label(pen, text, X(pen, last[0]), Y(pen, last[1]) + 20 + k * 16, { bold: k === 0 }))
    },
    leave() {
      places = []
      over = undefined
    },
  }
}
