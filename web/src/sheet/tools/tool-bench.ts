import { blankLevel, type Edit, type EditResult, type Level } from '@tidytrail/core/level'
import type { Suggestion } from '@tidytrail/core/reach'
import { KIND_HITS } from '../../kinds'
import { bareScene } from '../../map/bare-scene'
import { hitAt, type HitKind } from '../../map/hit'
import { toScreenX, toScreenY, type Viewport } from '../../map/viewport'
import type { MapPointer, Tool, ToolContext } from '../../tools/tool'

/** A sheet without a page: a level, an undo stack, and a pointer in level metres. */
export class Bench {
  level: Level = blankLevel('Tools')
  readonly past: Level[] = []
  private word = ''
  readonly view: Viewport = { x: 60, y: 40, scale: 5, width: 1000, height: 700 }
  readonly sheet = {
    stage: 'routes',
    selected: [] as readonly string[],
    hovered: undefined as string | undefined,
    hint: '',
    goOnWith: undefined as { routeId: string; from: 'first' | 'last' } | undefined,
    drawerTab: '',
    openDrawer(tab: string) {
      this.drawerTab = tab
    },
    isShown: () => true,
    get chosen() {
      return this.selected[0]
    },
    choose(ids: readonly string[]) {
      this.selected = ids
    },
    toggle(id: string) {
      this.selected = this.selected.includes(id) ? this.selected.filter((s) => s !== id) : [...this.selected, id]
    },
  }
  done = 0
  released = 0
  gesture: string | undefined

  readonly context = {
    sheet: this.sheet,
    view: this.view,
    survey: {
      path: async () => undefined,
      whyNot: async () => undefined,
      profileId: 'pf_warden',
      suggestions: [] as readonly Suggestion[],
    },
    levels: {
      perform: <A>(edit: Edit<A>, args: A, gesture?: string) => this.take(edit.apply(this.level, args), gesture),
      takeBackIf: (label: string) => {
        const is = label === this.word
        if (is) this.undo()
        return is
      },
      together: (label: string, edits: ((level: Level) => EditResult)[]) => {
        const level = edits.reduce((l, edit) => edit(l).level, this.level)
        this.take({ level, patch: [], inverse: [] })
        this.word = label
      },
      release: () => {
        this.released++
        this.gesture = undefined
      },
    },
    hit: (p: { sx: number; sy: number }, kinds?: readonly HitKind[]) =>
      hitAt(
        [...KIND_HITS].sort((a, b) => a.order - b.order),
        bareScene(this.level, {
          stage: this.sheet.stage,
          chosen: new Set(this.sheet.selected),
          suggestions: this.context.survey.suggestions,
        }),
        this.view,
        p.sx,
        p.sy,
        kinds,
      ),
    place: (x: number, y: number, options: { free?: boolean } = {}) =>
      options.free ? [x, y, 0] : [Math.round(x), Math.round(y), 0],
    redraw: () => {},
    done: () => this.done++,
  }

  constructor() {
    Object.defineProperty(this.context.levels, 'doc', { get: () => this.level })
  }

  make(tool: (context: ToolContext) => Tool): Tool {
    return tool(this.context as unknown as ToolContext)
  }

  private take(result: EditResult, gesture?: string): void {
    if (gesture === undefined || gesture !== this.gesture) this.past.push(this.level)
    this.gesture = gesture
    this.word = ''
    this.level = result.level
  }

  undo(): void {
    this.level = this.past.pop()!
  }

  pointer(x: number, y: number, keys: Partial<Pick<MapPointer, 'shift' | 'alt' | 'ctrl'>> = {}): MapPointer {
    const at: [number, number, number] = keys.alt ? [x, y, 0] : [Math.round(x), Math.round(y), 0]
    return {
      sx: toScreenX(this.view, x),
      sy: toScreenY(this.view, y),
      x,
      y,
      at,
      shift: false,
      alt: false,
      ctrl: false,
      ...keys,
    }
  }

  click(tool: Tool, x: number, y: number, keys = {}): void {
    const p = this.pointer(x, y, keys)
    tool.move?.(p, false)
    tool.down?.(p)
    tool.up?.(p)
  }

  drag(tool: Tool, from: [number, number], to: [number, number], keys = {}): void {
    tool.down?.(this.pointer(...from, keys))
    for (let k = 1; k <= 5; k++) {
      tool.move?.(
        this.pointer(from[0] + ((to[0] - from[0]) * k) / 5, from[1] + ((to[1] - from[1]) * k) / 5, keys),
        true,
      )
    }
    tool.up?.(this.pointer(...to, keys))
  }

  get route() {
    return Object.values(this.level.routes)[0]
  }
  places() {
    return this.route.order.map((s) => this.level.waypoints[this.route.stops[s].waypointId].at.slice(0, 2))
  }
}
