import { exact, type Box2 } from '@tidytrail/core/geometry'
import { defineEdit } from './edit'
import type { Solid } from './kinds/solid'
import { solidSchema } from './kinds/solid'
import type { Ground, Level } from './schema'

/** Ground that is ready to be walked on, to begin a level with. */
export interface ReadyGround {
  readonly name: string
  /** What it is, in a line. */
  readonly says: string
  /** @param extent the whole level, metres; what is built stands in its middle */
  make(extent: Box2): LaidGround
}
export interface LaidGround {
  readonly solids: readonly Solid[]
  readonly heights: Ground['heights']
  readonly waterLevelM: number | null
}

/** What is built is for a place of this size, metres; where the level is larger it stands in the middle of it. */
const PLACE = { wide: 120, deep: 80 }
const SAMPLES_ACROSS = 120

type Parts = Record<string, unknown> & { shape: string; name: string }
const solids = (parts: readonly Parts[]): Solid[] => parts.map((part) => solidSchema.parse(part))
const box = (name: string, x: number, y: number, sizeX: number, sizeY: number, heightM: number, more: object = {}) => ({
  shape: 'box',
  name,
  at: [x, y],
  sizeX,
  sizeY,
  heightM,
  baseM: 0,
  ...more,
})

/** The middle of a level, and how wide and deep the place in it is, metres. */
function placeIn({ minX, maxX, minY, maxY }: Box2) {
  return {
    x: (minX + maxX) / 2,
    y: (minY + maxY) / 2,
    wide: Math.min(PLACE.wide, maxX - minX),
    deep: Math.min(PLACE.deep, maxY - minY),
  }
}

/** Heights all over a level, to the centimetre. @param at of a place, in metres */
function heightsOver({ minX, maxX, minY, maxY }: Box2, at: (x: number, y: number) => number): Ground['heights'] {
  const spacingM = Math.max(1, Math.max(maxX - minX, maxY - minY) / SAMPLES_ACROSS)
  const samples = (length: number) => Math.max(2, Math.ceil(length / spacingM - 1e-9) + 1)
  const rows = Array.from({ length: samples(maxY - minY) }, (_row, j) =>
    Array.from(
      { length: samples(maxX - minX) },
      (_sample, i) => Math.round(100 * at(minX + i * spacingM, minY + j * spacingM)) / 100,
    ),
  )
  return { originX: minX, originY: minY, spacingM, rows, assetId: null, changed: {} }
}

const yard: ReadyGround = {
  name: 'Walled yard',
  says: 'A wall with a gate at either end, two sheds, and crates to go round.',
  make(extent) {
    const { x, y, wide, deep } = placeIn(extent)
    // Gates of an eighth of the width, and room outside the wall to come from.
    const [w, d] = [0.8 * wide, 0.8 * deep]
    const side = (w - w / 8) / 2
    const wall = (name: string, dx: number, dy: number, sizeX: number, sizeY: number) =>
      box(name, x + dx, y + dy, sizeX, sizeY, 3)
    const middle = w / 16 + side / 2
    return {
      solids: solids([
        wall('West wall', -w / 2, 0, 0.5, d),
        wall('East wall', w / 2, 0, 0.5, d),
        wall('North wall, west', -middle, d / 2, side, 0.5),
        wall('North wall, east', middle, d / 2, side, 0.5),
        wall('South wall, west', -middle, -d / 2, side, 0.5),
        wall('South wall, east', middle, -d / 2, side, 0.5),
        box('Long shed', x - 0.22 * w, y + 0.2 * d, 0.24 * w, 0.2 * d, 4),
        box('Low shed', x + 0.26 * w, y - 0.18 * d, 0.16 * w, 0.28 * d, 3.2),
        ...[-0.1, 0, 0.14].map((u, k) =>
          box(`Crates ${k + 1}`, x + u * w, y - (0.24 - 0.2 * k) * d, 0.04 * w, 0.04 * w, 1.2),
        ),
      ]),
      heights: null,
      waterLevelM: null,
    }
  },
}

const quay: ReadyGround = {
  name: 'Quayside',
  says: 'Land to the north, water to the south, a jetty between them, and two warehouses.',
  make(extent) {
    const { x, y, wide, deep } = placeIn(extent)
    const edge = y - 0.1 * deep
    return {
      solids: solids([
        box('Warehouse 1', x - 0.24 * wide, y + 0.26 * deep, 0.22 * wide, 0.24 * deep, 6, { baseM: 1.2 }),
        box('Warehouse 2', x + 0.14 * wide, y + 0.26 * deep, 0.22 * wide, 0.24 * deep, 6, { baseM: 1.2 }),
        // Its top is level with the land it begins on.
        box('Jetty', x, edge - 0.11 * deep, 0.08 * wide, 0.3 * deep, 3.2, { baseM: -2, walkable: true }),
      ]),
      heights: heightsOver(extent, (_x, north) => (north > edge ? 1.2 : -2)),
      waterLevelM: 0,
    }
  },
}

const hills: ReadyGround = {
  name: 'Hills',
  says: 'Three hills that can be climbed on some sides, and a dip between them.',
  make(extent) {
    const { x, y, wide, deep } = placeIn(extent)
    /** A hill, round at its top and at its foot: a cosine bell. */
    const hill = (east: number, north: number, highM: number, radius: number) => (px: number, py: number) => {
      const r = exact.hypot((px - x - east * wide) / wide, (py - y - north * deep) / deep) / radius
      return r >= 1 ? 0 : (highM / 2) * (1 + exact.cos(Math.PI * r))
    }
    const all = [
      hill(-0.25, 0.15, 9, 0.34),
      hill(0.2, 0.22, 6, 0.26),
      hill(0.22, -0.26, 4, 0.24),
      hill(0, -0.08, -1.2, 0.14),
    ]
    return {
      solids: [],
      heights: heightsOver(extent, (px, py) => all.reduce((sum, of) => sum + of(px, py), 0)),
      waterLevelM: null,
    }
  },
}

export const READY_GROUNDS: readonly ReadyGround[] = [yard, quay, hills]

/** Has a level nothing yet that anybody could stand on or run into, but its flat ground? */
export const hasBareGround = ({ ground, solids, meshes, covers }: Level): boolean =>
  ground.heights === null && [solids, meshes, covers].every((things) => Object.keys(things).length === 0)

/** Lays ready ground as one step. @param ids of its solids, as many as there are */
export const layGround = defineEdit<{ name: string; laid: LaidGround; ids: readonly string[] }>(
  (_level, { name }) => `Lay ${name}`,
  (draft, { laid, ids }) => {
    laid.solids.forEach((solid, k) => (draft.solids[ids[k]] = solid))
    if (laid.heights) draft.ground.heights = laid.heights
    if (laid.waterLevelM !== null) draft.settings.waterLevelM = laid.waterLevelM
  },
)
