import type { Box2 } from '@tidytrail/core/geometry'
import { floorsAt, Viewpoint } from '@tidytrail/core/ground'
import { HEAD, type Area } from '@tidytrail/core/level'
import { FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { Lookers, lookerKeys, looksOf, type Look } from './lookers'

/** Squares are no smaller than this, metres, and there are no more of them than so many. */
const LEAST_M = 1
const MOST_SQUARES = 60_000
/** It is looked so many times a second. */
export const LOOKS_HZ = 2
/** Room somebody needs to stand on a floor, metres. */
const ROOM_M = 1
/** So near to each other eyes have the same in the way, metres. */
const VIEW_M = 0.5

/** What is watched how much of the time, by squares, row by row from the south-west corner. Metres and seconds. */
export interface Coverage {
  readonly minX: number
  readonly minY: number
  readonly squareM: number
  readonly columns: number
  readonly rows: number
  /** Seconds each square was watched by somebody; below 0 where nobody could stand. */
  readonly seconds: Float32Array
  /** When each was first seen, seconds; Infinity for never. */
  readonly firstS: Float32Array
  readonly ofS: number
}

interface Options {
  /** Whose eyes count; those of the factions named, or as for windows where none is. */
  readonly factionIds?: readonly string[]
  readonly keys?: ReadonlySet<number>
  readonly heightM?: number
  /** Only squares whose middle lies in it. */
  readonly area?: Area
  /** Up to this time, seconds. */
  readonly untilS?: number
}

/**
 * How much of the time each square of a level is watched: a body of a height on its lowest floor, or on the lowest one
 * of those an area means.
 */
export function coverage(recorded: Recorded, options: Options = {}): Coverage {
  const { factionIds = [], keys = lookerKeys(recorded, factionIds), heightM = 1.75, area, untilS = Infinity } = options
  const lookers = new Lookers(recorded, factionIds, keys)
  const extent = area?.box ?? recorded.level.settings.extent
  const [wide, high] = [extent.maxX - extent.minX, extent.maxY - extent.minY]
  const squareM = Math.max(LEAST_M, Math.sqrt((wide * high) / MOST_SQUARES))
  const columns = Math.max(1, Math.ceil(wide / squareM))
  const rows = Math.max(1, Math.ceil(high / squareM))
  const middle = (k: number) =>
    [extent.minX + ((k % columns) + 0.5) * squareM, extent.minY + (Math.floor(k / columns) + 0.5) * squareM] as const
  const seconds = new Float32Array(columns * rows)
  const firstS = new Float32Array(columns * rows).fill(Infinity)
  const floor = new Float64Array(columns * rows)
  for (let k = 0; k < seconds.length; k++) {
    const z = floorOf(lookers, ...middle(k), area)
    if (z === undefined) seconds[k] = -1
    else floor[k] = z
  }
  const every = Math.max(1, Math.round(FRAMES_PER_SECOND / LOOKS_HZ))
  const to = Math.min(recorded.frameCount, Math.floor(untilS * FRAMES_PER_SECOND) + 1)
  /** The last frame each square was counted in. */
  const counted = new Int32Array(columns * rows).fill(-1)
  const views = new Views(lookers, { extent, squareM, columns, rows, heightM, floor, seconds })
  const looks = looksOf(lookers, { from: 0, to, every }, (look) => views.seen(look))
  for (const { k: frame, found } of looks) {
    for (const k of found) {
      if (counted[k] === frame) continue
      counted[k] = frame
      seconds[k] += every / FRAMES_PER_SECOND
      if (firstS[k] === Infinity) firstS[k] = frame / FRAMES_PER_SECOND
    }
  }
  const ofS = Math.ceil(to / every) * (every / FRAMES_PER_SECOND)
  return { minX: extent.minX, minY: extent.minY, squareM, columns, rows, seconds, firstS, ofS }
}

interface Squares {
  readonly extent: Box2
  readonly squareM: number
  readonly columns: number
  readonly rows: number
  readonly heightM: number
  readonly floor: Float64Array
  /** Below 0 where nobody could stand. */
  readonly seconds: Float32Array
}

/** A square that has not been looked at from somewhere, one that is clear from there, and one that is not. */
const [OPEN, CLEAR, HIDDEN] = [0, 1, 2]

/** What can be seen from one place, as far as somebody has faced it. */
interface View {
  readonly from: Viewpoint
  /** Columns and rows of the squares within sight, and what is known of each. */
  readonly i0: number
  readonly i1: number
  readonly j0: number
  readonly j1: number
  readonly known: Uint8Array
}

/**
 * What is seen from where. Who comes within half a metre of where somebody of the same body has looked from before is
 * taken to have had the same in the way; which way it looks and how far is its own. A square is looked at from a place
 * only once somebody there faces it.
 */
class Views {
  private readonly byPlace = new Map<string, View>()

  constructor(
    private readonly lookers: Lookers,
    private readonly of: Squares,
  ) {}

  seen(look: Look): number[] {
    const { columns, squareM, extent, floor, seconds, heightM } = this.of
    const { from, i0, i1, j0, j1, known } = this.viewOf(look)
    const out: number[] = []
    let n = 0
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++, n++) {
        const k = j * columns + i
        if (known[n] === HIDDEN || seconds[k] < 0) continue
        const x = extent.minX + (i + 0.5) * squareM
        const y = extent.minY + (j + 0.5) * squareM
        if (!look.facesTo(x, y, floor[k])) continue
        if (known[n] === OPEN) {
          const clear = from.sees(x, y, floor[k] + HEAD * heightM) || from.sees(x, y, floor[k] + 0.5 * heightM)
          known[n] = clear ? CLEAR : HIDDEN
        }
        if (known[n] === CLEAR) out.push(k)
      }
    return out
  }

  private viewOf({ x, y, z, looker }: Look): View {
    const { extent, squareM, columns, rows } = this.of
    const place = [x / VIEW_M, y / VIEW_M, z / VIEW_M].map(Math.floor)
    const name = `${place.join(' ')} ${looker.eyeM} ${looker.sightM}`
    let view = this.byPlace.get(name)
    if (view) return view
    // Somebody as near as that may see a little farther to one side.
    const farM = looker.sightM + VIEW_M
    const within = (m: number, most: number) => Math.max(0, Math.min(most, Math.floor(m / squareM)))
    const [i0, i1] = [x - farM, x + farM].map((m) => within(m - extent.minX, columns - 1))
    const [j0, j1] = [y - farM, y + farM].map((m) => within(m - extent.minY, rows - 1))
    const from = new Viewpoint(this.lookers.terrain, x, y, z + looker.eyeM, farM)
    view = { from, i0, i1, j0, j1, known: new Uint8Array((i1 - i0 + 1) * (j1 - j0 + 1)) }
    this.byPlace.set(name, view)
    return view
  }
}

/** The height of the lowest floor with room to stand; undefined where there is none. */
function floorOf({ terrain }: Lookers, x: number, y: number, area: Area | undefined): number | undefined {
  if (area && !area.holds(x, y)) return undefined
  const floors = floorsAt(terrain, x, y)
  const found = floors.find(
    (f) =>
      f.ceilingM - f.z >= ROOM_M &&
      (f.surface < 0 || f.surface >= terrain.solids.length || terrain.solids[f.surface].walkable) &&
      (!area || area.holds(x, y, f.z)),
  )
  return found?.z
}

/** What is to be said of a coverage: shares of the squares where somebody could stand, 0 to 1. */
export interface CoverageFigures {
  readonly squares: number
  /** Seen at all, and seen within so long. */
  readonly seen: number
  readonly within: number
  /** The share of the time a square is watched, on average. */
  readonly watched: number
  /** Squares never seen: their middles, metres. */
  readonly never: readonly (readonly [number, number])[]
}

/** So many places that were never seen are told of. */
const MOST_NEVER = 2_000

export function coverageFigures(of: Coverage, withinS: number): CoverageFigures {
  const never: [number, number][] = []
  let [squares, seen, within, sum] = [0, 0, 0, 0]
  of.seconds.forEach((s, k) => {
    if (s < 0) return
    squares++
    sum += s
    if (of.firstS[k] < Infinity) seen++
    else if (never.length < MOST_NEVER)
      never.push([
        of.minX + ((k % of.columns) + 0.5) * of.squareM,
        of.minY + (Math.floor(k / of.columns) + 0.5) * of.squareM,
      ])
    if (of.firstS[k] <= withinS + 1e-6) within++
  })
  const share = (n: number) => (squares > 0 ? n / squares : 0)
  return { squares, seen: share(seen), within: share(within), watched: of.ofS > 0 ? share(sum / of.ofS) : 0, never }
}
