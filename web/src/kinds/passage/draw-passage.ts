import { distance2, type Point3 } from '@tidytrail/core/geometry'
import { addThing, freshName, passageSchema, type Passage } from '@tidytrail/core/level'
import { reactive } from 'vue'
import { drawSuggestions } from './draw'
import { label, X, Y } from '../../map/pen'
import { randomId } from '../../stores/random-id'
import { metres } from '../../ui/figures'
import type { MakeTool } from '../../tools/tool'
import DrawOptions from './DrawOptions.vue'

export const PASSAGE_WORDS: Record<Passage['kind'], string> = {
  jump: 'Jump',
  drop: 'Drop',
  ladder: 'Ladder',
  door: 'Door',
  lift: 'Lift',
  portal: 'Portal',
  ford: 'Ford',
}

/** The kind drawn next. */
export const passageBrush = reactive<{ kind: Passage['kind'] }>({ kind: 'ladder' })

/** Time a passage takes unless one says otherwise, seconds: from its kind and what it spans. */
export function usualTimeS(kind: Passage['kind'], from: Point3, to: Point3): number {
  const rise = Math.abs(to[2] - from[2])
  const wide = distance2(from, to)
  const s = {
    jump: 0.8,
    drop: Math.max(0.3, Math.sqrt((2 * rise) / 9.81)),
    ladder: 1 + rise / 0.5,
    door: 1.5,
    lift: 8 + rise,
    portal: 0.5,
    ford: wide / 0.7,
  }[kind]
  return Math.round(s * 10) / 10
}

/** Draws a passage from one place to another. */
export const passageTool: MakeTool = (ctx) => {
  let from: Point3 | undefined
  let to: Point3 | undefined
  return {
    id: 'passage',
    options: DrawOptions,
    label: 'Passage',
    key: 'j',
    stages: ['reach'],
    hint: 'Choose a kind, then click where it begins and where it ends. Each end lies on the highest floor there; its card changes that. Escape ends.',
    cursor: 'crosshair',
    places: ['passages'],
    busy: () => from !== undefined,
    down: () => true,
    move(p) {
      to = ctx.place(p.x, p.y, { free: true })
      if (from) ctx.redraw()
    },
    up(p) {
      const at = ctx.place(p.x, p.y, { free: true })
      if (!from) {
        from = at
        ctx.redraw()
        return
      }
      if (distance2(from, at) < 0.05) {
        ctx.sheet.hint = 'Both ends are at the same place. Click where it leads to.'
        return
      }
      const { kind } = passageBrush
      const id = randomId('passages')
      const thing = passageSchema.parse({
        name: freshName(ctx.levels.doc.passages, PASSAGE_WORDS[kind]),
        kind,
        from: [...from],
        to: [...at],
        twoWay: kind !== 'drop',
        takesS: usualTimeS(kind, from, at),
      })
      from = to = undefined
      ctx.levels.perform(addThing, { in: 'passages', id, thing })
      ctx.sheet.choose([id])
      ctx.redraw()
    },
    press(key) {
      if (key !== 'Escape' || !from) return false
      from = undefined
      ctx.redraw()
      return true
    },
    draw(pen) {
      if (!from) return
      const end = to ?? from
      const { kind } = passageBrush
      const ghost = {
        kind,
        from,
        to: end,
        twoWay: kind !== 'drop',
        takesS: 0,
        islands: [0, 0] as const,
        widthM: 0,
        riseM: 0,
      }
      drawSuggestions(pen, [ghost], 0)
      const words = `${metres(distance2(from, end))}, ${end[2] >= from[2] ? 'up' : 'down'} ${metres(Math.abs(end[2] - from[2]))}`
      label(pen, words, X(pen, end[0]), Y(pen, end[1]) + 20, { bold: true })
    },
    leave() {
      from = to = undefined
    },
  }
}
