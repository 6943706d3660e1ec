import { BRUSHES, dab, flatRows, heightAt, heightField, terrainOf, type BrushKind } from '@tidytrail/core/ground'
import { changeHeights, setHeights } from '@tidytrail/core/level'
import { reactive } from 'vue'
import { label, X, Y } from '../map/pen'
import { metres } from '../ui/figures'
import type { MakeTool, MapPointer } from './tool'
import BrushOptions from './BrushOptions.vue'

export const BRUSH_WORDS: Record<BrushKind, string> = {
  raise: 'Raise',
  lower: 'Lower',
  level: 'Level',
  smooth: 'Smooth',
  ramp: 'Ramp',
}
export const BRUSH_HINTS: Record<BrushKind, string> = {
  raise: 'Press and move to raise the ground.',
  lower: 'Press and move to lower the ground.',
  level: 'Press where the ground has the height you want, and move over what should get it.',
  smooth: 'Press and move to smooth bumps away.',
  ramp: 'Press where the ramp begins, drag to where it ends: it joins the heights at both.',
}
export { BRUSHES }

/** The brush in hand: its radius in metres, and its strength from 0 to 1. */
export const heightBrush = reactive({ kind: 'raise' as BrushKind, radiusM: 8, strength: 0.5 })

/** Time between two dabs of a brush that is held, ms. */
const EVERY_MS = 45

/** Paints heights: raise, lower, level, smooth, or a ramp from here to there. */
export const heightsTool: MakeTool = (ctx) => {
  let over: MapPointer | undefined
  let start: { at: readonly [number, number, number]; gesture: string } | undefined
  let last = 0

  function stroke(p: MapPointer, whole: boolean): void {
    const { kind, radiusM, strength } = heightBrush
    const { field } = terrainOf(ctx.levels.doc)
    const now = performance.now()
    if (!start || (!whole && now - last < EVERY_MS)) return
    last = now
    const power = kind === 'raise' || kind === 'lower' ? strength * 0.6 : kind === 'ramp' ? 1 : 0.15 + 0.5 * strength
    const rows = dab(field, {
      kind,
      x: p.x,
      y: p.y,
      radiusM,
      strength: power,
      targetM: start.at[2],
      from: start.at,
      toM: heightAt(field, p.x, p.y),
    })
    if (Object.keys(rows).length > 0)
      ctx.levels.perform(changeHeights, { rows, word: BRUSH_WORDS[kind] }, start.gesture)
  }

  return {
    id: 'heights',
    options: BrushOptions,
    label: 'Heights',
    key: 'h',
    stages: ['ground'],
    hint: 'Choose a brush above, press and move over the ground. [ and ] change its size.',
    cursor: 'none',
    down(p) {
      const level = ctx.levels.doc
      const gesture = `heights-${Date.now()}`
      if (level.ground.heights === null) {
        const rows = flatRows(level.settings.extent, level.ground.baseM)
        ctx.levels.perform(setHeights, { heights: { ...rows, assetId: null, changed: {} } }, gesture)
      } else if (level.ground.heights.assetId && heightField(level.ground).columns === 2) {
        ctx.sheet.hint = 'The imported heights have not come yet; wait a moment.'
        return true
      }
      const { field } = terrainOf(ctx.levels.doc)
      start = { at: [p.x, p.y, heightAt(field, p.x, p.y)], gesture }
      last = 0
      if (heightBrush.kind !== 'ramp') stroke(p, true)
      return true
    },
    move(p, dragging) {
      over = p
      if (dragging && start && heightBrush.kind !== 'ramp') stroke(p, false)
      ctx.redraw()
    },
    up(p) {
      if (start && heightBrush.kind === 'ramp') stroke(p, true)
      start = undefined
      ctx.levels.release()
      ctx.redraw()
    },
    press(key) {
      if (key === '[') heightBrush.radiusM = Math.max(1, heightBrush.radiusM / 1.25)
      else if (key === ']') heightBrush.radiusM = Math.min(200, heightBrush.radiusM * 1.25)
      else return false
      ctx.redraw()
      return true
    },
    draw(pen) {
      if (!over) return
      const { c, inks } = pen
      const [ox, oy] = [X(pen, over.x), Y(pen, over.y)]
      const r = heightBrush.radiusM * pen.view.scale
      c.strokeStyle = inks.colour.rust
      c.lineWidth = 1.6
      c.beginPath()
      c.arc(ox, oy, r, 0, 7)
      c.stroke()
      c.globalAlpha = 0.5
      c.beginPath()
      c.arc(ox, oy, r * 0.5, 0, 7)
      c.stroke()
      c.globalAlpha = 1
      if (heightBrush.kind === 'ramp' && start) {
        c.setLineDash([6, 4])
        c.beginPath()
        c.moveTo(X(pen, start.at[0]), Y(pen, start.at[1]))
        c.lineTo(ox, oy)
        c.stroke()
        c.setLineDash([])
      }
      const z = heightAt(terrainOf(ctx.levels.doc).field, over.x, over.y)
      label(pen, metres(z), ox, oy - r - 12, { size: 11 })
    },
    leave() {
      start = undefined
      over = undefined
      ctx.levels.release()
    },
  }
}
