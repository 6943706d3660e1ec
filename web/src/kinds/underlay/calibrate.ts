import { distance2, type Point2 } from '@tidytrail/core/geometry'
import { changeThings, type Underlay } from '@tidytrail/core/level'
import { reactive } from 'vue'
import { label, X, Y } from '../../map/pen'
import type { MakeTool } from '../../tools/tool'
import CalibrateOptions from './CalibrateOptions.vue'

/** Two places on an underlay and how far apart they are really. */
export const calibration = reactive<{ a?: Point2; b?: Point2; distanceM: number; turn: boolean }>({
  distanceM: 10,
  turn: false,
})

/**
 * An underlay made larger or smaller, so that two places on it lie as far apart as they should; the first stays where it
 * is. With `level` the line between them is also laid west to east.
 */
export function pinned(u: Underlay, a: Point2, b: Point2, distanceM: number, level: boolean): Partial<Underlay> {
  const factor = distanceM / distance2(a, b)
  const turn = level ? -Math.atan2(b[1] - a[1], b[0] - a[0]) : 0
  const [c, s] = [Math.cos(turn) * factor, Math.sin(turn) * factor]
  const dx = u.at[0] - a[0]
  const dy = u.at[1] - a[1]
  const round = (v: number) => Math.round(v * 1e4) / 1e4
  return {
    at: [round(a[0] + dx * c - dy * s), round(a[1] + dx * s + dy * c)],
    metresPerPixel: Math.min(10_000, Math.max(1e-6, u.metresPerPixel * factor)),
    turnRad: Math.round((u.turnRad + turn) * 1e6) / 1e6,
  }
}

/** Places an underlay by two known points and the distance between them. */
export const calibrateTool: MakeTool = (ctx) => {
  let over: Point2 | undefined
  return {
    id: 'pin',
    options: CalibrateOptions,
    asked: true,
    label: 'Pin underlay',
    key: 'u',
    stages: ['ground'],
    hint: 'Choose an underlay, click two places on it whose distance you know, and say it above.',
    cursor: 'crosshair',
    down: () => true,
    move(p) {
      over = [p.x, p.y]
      ctx.redraw()
    },
    up(p) {
      if (!ctx.sheet.chosen || !ctx.levels.doc.underlays[ctx.sheet.chosen]) {
        ctx.sheet.hint = 'Choose an underlay in the register first.'
        return
      }
      if (!calibration.a || calibration.b) {
        calibration.a = [p.x, p.y]
        calibration.b = undefined
      } else {
        calibration.b = [p.x, p.y]
        calibration.distanceM = Math.round(distance2(calibration.a, calibration.b) * 100) / 100
      }
      ctx.redraw()
    },
    draw(pen) {
      const { a } = calibration
      const b = calibration.b ?? over
      if (!a) return
      pen.c.strokeStyle = pen.inks.colour.plum
      pen.c.lineWidth = 2
      pen.c.beginPath()
      for (const at of [a, b]) {
        if (!at) continue
        pen.c.moveTo(X(pen, at[0]) - 8, Y(pen, at[1]))
        pen.c.lineTo(X(pen, at[0]) + 8, Y(pen, at[1]))
        pen.c.moveTo(X(pen, at[0]), Y(pen, at[1]) - 8)
        pen.c.lineTo(X(pen, at[0]), Y(pen, at[1]) + 8)
      }
      pen.c.stroke()
      if (b) {
        pen.c.setLineDash([4, 4])
        pen.c.beginPath()
        pen.c.moveTo(X(pen, a[0]), Y(pen, a[1]))
        pen.c.lineTo(X(pen, b[0]), Y(pen, b[1]))
        pen.c.stroke()
        pen.c.setLineDash([])
        label(pen, 'how far?', X(pen, (a[0] + b[0]) / 2), Y(pen, (a[1] + b[1]) / 2) - 14, { size: 11 })
      }
    },
    leave() {
      calibration.a = calibration.b = undefined
      over = undefined
    },
  }
}

/** Carries out what has been pinned. */
export function applyCalibration(
  ctx: {
    levels: { doc: { underlays: Record<string, Underlay> }; perform: (edit: typeof changeThings, args: never) => void }
  },
  id: string,
): void {
  const u = ctx.levels.doc.underlays[id]
  if (
    !u ||
    !calibration.a ||
    !calibration.b ||
    !(calibration.distanceM > 0) ||
    distance2(calibration.a, calibration.b) < 1e-6
  )
    return
  const set = pinned(u, calibration.a, calibration.b, calibration.distanceM, calibration.turn)
  ctx.levels.perform(changeThings, { in: 'underlays', changes: { [id]: set } } as never)
  calibration.a = calibration.b = undefined
}
