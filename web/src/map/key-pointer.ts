import type { MapPointer, Tool } from '../tools/tool'

/** The keys that are held down beside the one that is pressed. */
export interface Mods {
  readonly shiftKey: boolean
  readonly altKey: boolean
}

/** A pointer that is moved by keys, which clicks and drags with the tool in hand as that of a hand would. */
export function keyPointer(options: {
  tool(): Tool
  /** The pointer as tools are told of it, at a place of the window, pixels. */
  at(x: number, y: number, mods: Mods): MapPointer
  /** The window, and how far one press of an arrow leads in it, pixels. */
  window(): { readonly width: number; readonly height: number; readonly step: number }
  /** It is somewhere else now. */
  moved(p: MapPointer): void
}) {
  /** Where it is in the window, once it has been used. */
  let place: { x: number; y: number } | undefined
  /** The tool it is held down with. */
  let held: Tool | undefined
  /** It stays so far from the edge of the window, pixels. */
  const EDGE = 4

  function letGo(mods: Mods): void {
    const tool = held!
    held = undefined
    tool.up?.(options.at(place!.x, place!.y, mods))
  }

  function middle(): { x: number; y: number } {
    const { width, height } = options.window()
    return { x: width / 2, y: height / 2 }
  }

  return {
    /** Has it a place in the window? */
    get placed(): boolean {
      return place !== undefined
    },
    /** Gives it a place in the middle of the window, or takes the one it has away. */
    put(there: boolean): void {
      place = there ? middle() : undefined
      if (place) options.moved(options.at(place.x, place.y, { shiftKey: false, altKey: false }))
    },
    /** Moves it by squares of the grid. */
    steer(dx: number, dy: number, mods: Mods): void {
      const { width, height, step } = options.window()
      const from = place ?? middle()
      place = {
        x: Math.min(width - EDGE, Math.max(EDGE, from.x + dx * step)),
        y: Math.min(height - EDGE, Math.max(EDGE, from.y - dy * step)),
      }
      const p = options.at(place.x, place.y, mods)
      options.moved(p)
      const tool = options.tool()
      tool.move?.(p, tool === held)
    },
    /** Clicks where it is, or ends what it is held down for; false before it has been anywhere. */
    click(mods: Mods): boolean {
      if (!place) return false
      if (!held) this.hold(mods)
      letGo(mods)
      return true
    },
    /** Presses it down and holds it, or lets go of it; false before it has been anywhere. */
    hold(mods: Mods): boolean {
      if (!place) return false
      if (held) letGo(mods)
      else {
        held = options.tool()
        held.down?.(options.at(place.x, place.y, mods))
      }
      return true
    },
    /** Breaks off what it is held down for: the tool, when there was one. */
    release(): Tool | undefined {
      const tool = held
      held = undefined
      return tool
    },
  }
}
