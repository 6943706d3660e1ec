import { heightAt, heightField } from '@tidytrail/core/ground'
import { groundSchema, PRESETS, WARDEN, type Ground, type Level, type LevelInput } from '@tidytrail/core/level'
import { block, isleLevel, oblong, Sketch, type SolidInput } from './build'
import { withCast } from './lanternquay-cast'

const WIDE = 220
const DEEP = 160
const SPACING = 2
/** Height of the quays and the yard behind them, metres over the water. */
const QUAY = 1.2

const smooth = (from: number, to: number, v: number) => {
  const t = Math.min(1, Math.max(0, (v - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
const hill = (x: number, y: number, cx: number, cy: number, size: number) =>
  Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * size * size))

/** Sea bed to the south, a flat yard behind the quays, hills to the north; beaches at either end of the quay. */
function groundHeight(x: number, y: number): number {
  const behindQuay = -3 + (3 + QUAY) * smooth(58, 64, y)
  const beach = -3 + (3 + QUAY) * smooth(14, 68, y)
  const quayside = smooth(10, 18, x) * (1 - smooth(202, 210, x))
  const shore = beach + (behindQuay - beach) * quayside
  const hills = 4.2 * hill(x, y, 52, 150, 26) + 6.4 * hill(x, y, 158, 152, 30) + 2.8 * hill(x, y, 212, 116, 18)
  return shore + hills * smooth(98, 134, y) + 2.8 * hill(x, y, 212, 116, 18) * smooth(70, 100, y) * smooth(188, 206, x)
}

function ground(): Ground {
  const rows: number[][] = []
  for (let y = 0; y <= DEEP; y += SPACING) {
    const row: number[] = []
    for (let x = 0; x <= WIDE; x += SPACING) row.push(Math.round(groundHeight(x, y) * 100) / 100)
    rows.push(row)
  }
  return groundSchema.parse({ baseM: 0, heights: { originX: 0, originY: 0, spacingM: SPACING, rows } })
}

function ngon(cx: number, cy: number, r: number, corners: number): [number, number][] {
  return Array.from({ length: corners }, (_, k): [number, number] => {
    const a = ((k + 0.5) * 2 * Math.PI) / corners
    return [Math.round((cx + r * Math.cos(a)) * 100) / 100, Math.round((cy + r * Math.sin(a)) * 100) / 100]
  })
}

function solids(): Record<string, SolidInput> {
  const walkable = { walkable: true, blocksSight: true }
  return {
    sd_quay: {
      shape: 'prism',
      name: 'Quay',
      ring: [
        [18, 48],
        [60, 48],
        [60, 60],
        [70, 60],
        [70, 48],
        [140, 48],
        [140, 26],
        [172, 26],
        [172, 48],
        [202, 48],
        [202, 66],
        [18, 66],
      ],
      baseM: -4,
      heightM: 4 + QUAY,
      ...walkable,
    },
    sd_bridge: block('Slip bridge', [58, 53, 72, 56], [0.9, QUAY + 0.1], { walkable: true, blocksSight: false }),
    sd_deck: block('Crane deck', [148, 30, 166, 43], [0, QUAY + 0.62], walkable),
    sd_deckramp: {
      shape: 'ramp',
      name: 'Deck ramp',
      at: [146, 36.5],
      sizeX: 4,
      sizeY: 3,
      baseM: QUAY,
      heightM: 0.62,
      walkable: true,
    },
    sd_customs: block('Customs', [22, 74, 56, 96], [0, 7.2]),
    sd_ware1: block('Warehouse 1', [74, 72, 99, 102], [0, 10.2]),
    sd_ware2: block('Warehouse 2', [107, 72, 129, 102], [0, 10.2]),
    sd_loft: block('Net loft', [140, 74, 170, 90], [0, 6.2], walkable),
    sd_loftramp: {
      shape: 'ramp',
      name: 'Loft ramp',
      at: [147, 95.5],
      sizeX: 11,
      sizeY: 4,
      turnRad: -Math.PI / 2,
      baseM: QUAY,
      heightM: 5,
      walkable: true,
    },
    sd_chandlery: block('Chandlery', [80, 116, 124, 132], [0, 10]),
    sd_lamps: block('Lamp store', [36, 112, 62, 127], [0, 7], { turnRad: 0.14 }),
    sd_gatehouse: block('Gatehouse', [5, 84, 15, 95], [0, 6]),
    sd_office: {
      shape: 'prism',
      name: 'Harbour office',
      ring: [
        [182, 74],
        [206, 74],
        [206, 84],
        [194, 84],
        [194, 96],
        [182, 96],
      ],
      baseM: 0,
      heightM: 8,
    },
    sd_tower: { shape: 'prism', name: 'Lantern tower', ring: ngon(190, 57, 4.2, 8), baseM: 0, heightM: 15 },
    sd_wall: block('Back wall', [68, 108, 68.2, 146], [0, 5]),
    sd_crate1: block('Crates', [80, 54, 85, 57], [QUAY, 3.4], { turnRad: 0.3 }),
    sd_crate2: block('Crates', [118, 60, 124, 63], [QUAY, 2.9], { turnRad: -0.2 }),
    sd_crate3: block('Barrels', [30, 55, 34, 58], [QUAY, 2.6], { turnRad: 0.5 }),
    sd_crane: block('Crane', [160, 33, 163, 36], [0, 11]),
    sd_cabin: block('Crane floor', [150, 37.5, 157, 42.5], [8.7, 9], walkable),
    sd_watersteps: {
      shape: 'stairs',
      name: 'Water steps',
      at: [120, 46.6],
      sizeX: 2.8,
      sizeY: 3,
      turnRad: Math.PI / 2,
      steps: 8,
      baseM: -0.1,
      heightM: 1.3,
      walkable: true,
    },
    sd_cistern: { shape: 'cylinder', name: 'Cistern', at: [214, 90], radiusM: 3.2, baseM: 0, heightM: 6 },
  }
}

/** What the ground is covered with: a cobbled road behind the quay, mud where the tide leaves it, a forbidden yard. */
const covers: NonNullable<LevelInput['covers']> = {
  cv_road: { name: 'Harbour road', kind: 'road', ring: oblong(16, 66, 206, 71.5) },
  cv_mudwest: { name: 'West mud', kind: 'mud', ring: oblong(0, 16, 16, 58), speedFactor: 0.5, grip: 0.35 },
  cv_mudeast: { name: 'East mud', kind: 'mud', ring: oblong(204, 16, 220, 58), speedFactor: 0.5, grip: 0.35 },
  cv_yard: { name: 'Customs yard', kind: 'off-limits', ring: oblong(58, 76, 67, 93) },
  cv_green: {
    name: 'Drying green',
    kind: 'grass',
    ring: [
      [172, 104],
      [204, 102],
      [208, 124],
      [176, 128],
    ],
    speedFactor: 0.85,
    grip: 0.6,
  },
}

const preset = (name: string) => PRESETS.find((p) => p.name === name)!

/** Patrols round a harbour's warehouses by night: the first level of the Sallow Isles. */
export function lanternquay(): Level {
  const made = ground()
  const field = heightField(made)
  /** A place on the open ground. */
  const land = (x: number, y: number): [number, number, number] => [x, y, Math.round(heightAt(field, x, y) * 100) / 100]
  const quay = (x: number, y: number): [number, number, number] => [x, y, QUAY]

  /** What cannot turn on the spot is drawn a line it can follow. */
  const afloat = { legs: 'drawn', curve: 'smooth' } as const
  const watch = { factionId: 'fc_watch' }
  const sketch = new Sketch()
    .route('quayround', 'Quay round', 'round', [
      { name: 'Gate steps', at: land(20, 70), pause: 3, face: 'W' },
      { name: 'Bollard row', at: land(46, 68), pause: 4, face: 'S' },
      { name: 'Slip head', at: quay(65, 63) },
      { name: 'Warehouse door', at: land(88, 69), pause: 8, face: 'N' },
      { name: 'Back lane', at: land(103, 106) },
      { name: 'Loft corner', at: land(134, 98), pause: 5, face: 'E' },
      { name: 'Crane foot', at: quay(143, 45) },
      { name: 'Crane deck', at: [156, 37, QUAY + 0.62], pause: 6, face: 'S' },
      { name: 'Quay edge', at: quay(106, 51), pause: [3, 6], face: 'S' },
    ])
    .route('chandlery', 'Chandlery loop', 'round', [
      { name: 'South-west corner', at: land(76, 112) },
      { name: 'Shop front', at: land(102, 112), pause: 6, face: 'N' },
      { name: 'South-east corner', at: land(128, 112) },
      { name: 'Coal yard', at: land(128, 136), pause: [2, 5], face: 'E' },
      { name: 'Behind', at: land(76, 136) },
    ])
    .route('roofbeat', 'Roof beat', 'there-and-back', [
      { name: 'Yard', at: land(138, 105) },
      { name: 'Ramp foot', at: land(147, 103) },
      { name: 'Roof edge', at: [147, 87, 6.2] },
      { name: 'East gable', at: [167, 87, 6.2], pause: 5, face: 'E' },
      { name: 'Lookout', at: [167, 77, 6.2], pause: 8, face: 'S' },
      { name: 'West gable', at: [143, 77, 6.2], pause: 4, face: 'W' },
    ])
    .route('pierwatch', 'Pier watch', 'there-and-back', [
      { name: 'Tower foot', at: quay(182, 54), pause: 4, face: 'W' },
      { name: 'Pier gate', at: quay(169, 47) },
      { name: 'East steps', at: quay(169, 28), pause: 5, face: 'S' },
      { name: 'West steps', at: quay(143, 28), pause: 5, face: 'W' },
    ])
    .route('lamplane', 'Lamp lane', 'one-way', [
      { name: 'Gate lamp', at: land(18, 104) },
      { name: 'Store lamp', at: land(30, 134), pause: 7, face: 'E' },
      { name: 'Wall lamp', at: land(64, 138), pause: 7, face: 'E' },
      { name: 'Lane lamp', at: land(64, 104), pause: 7, face: 'S' },
    ])
    .route('quaywalk', 'Quay walk', 'there-and-back', [
      { name: 'West bollard', at: quay(36, 62) },
      { name: 'Slip rail', at: quay(73, 62), pause: [2, 4], face: 'S' },
      { name: 'Crate row', at: quay(112, 58) },
      { name: 'Tower gate', at: quay(178, 62), pause: 5, face: 'S' },
    ])
    .route(
      'front',
      'Quay front',
      'one-way',
      [
        { name: 'East gate', at: quay(198, 64.6) },
        { name: 'Middle of the front', at: quay(120, 65) },
        { name: 'West end', at: quay(24, 64.6) },
      ],
      { kind: 'lane', legs: 'drawn', curve: 'smooth', widthM: 3, atEnd: 'leave' },
    )
    .route(
      'harbour',
      'Harbour round',
      'round',
      [
        { name: 'West buoy', at: [34, 34, 0] },
        { name: 'Quay steps', at: [100, 40, 0], pause: 6 },
        { name: 'Pier light', at: [130, 16, 0] },
        { name: 'Bar buoy', at: [70, 10, 0] },
      ],
      { ...afloat, speedLimitMps: 2 },
    )
    .route(
      'gullround',
      'Over the roofs',
      'round',
      [
        { name: 'Over the customs', at: [40, 90, 14] },
        { name: 'Over the hill', at: [100, 140, 20] },
        { name: 'Over the loft', at: [170, 96, 15] },
        { name: 'Over the pier', at: [150, 30, 9] },
        { name: 'Over the harbour', at: [70, 24, 7] },
      ],
      afloat,
    )
    .route(
      'cartway',
      'Cartway',
      'round',
      [
        { name: 'Store side', at: land(34, 99.5) },
        { name: 'Yard end', at: land(58, 100) },
        { name: 'Turning place', at: land(58, 107) },
        { name: 'Store front', at: land(34, 106.5) },
      ],
      { legs: 'drawn', curve: 'smooth', profileIds: ['pf_cart'] },
    )
    .route('thief', 'What the thief means to do', 'one-way', [
      { name: 'Beach', at: land(212, 70) },
      { name: 'Behind the office', at: land(176, 92), pause: 6 },
      { name: 'Between the warehouses', at: land(103, 88), pause: 8 },
      { name: 'Dark corner', at: land(70, 100), pause: 5 },
      { name: 'Away over the hill', at: land(30, 146) },
    ])
    .spawner('gatehouse', 'Gatehouse', land(18, 80), 'S', 'quayround', {
      ...watch,
      count: 2,
      everyS: 60,
      firstAfterS: 1,
    })
    .spawner('bollards', 'Bollard watch', quay(30, 62), 'E', 'quaywalk', { ...watch, firstAfterS: 1 })
    .spawner('cart', 'Tide-cart', quay(200, 64.6), 'W', 'front', {
      profileId: 'pf_cart',
      factionId: 'fc_quay',
      count: 3,
      everyS: 40,
      firstAfterS: 6,
    })
    .spawner('skiff', 'Skiff', [30, 26, 0], 'N', 'harbour', {
      profileId: 'pf_skiff',
      factionId: 'fc_quay',
      firstAfterS: 1,
    })
    .spawner('gulls', 'Gull', [40, 84, 12], 'E', 'gullround', {
      profileId: 'pf_gull',
      factionId: 'fc_quay',
      count: 2,
      everyS: 6,
    })
    .spawner('thief', 'Thief', land(214, 68), 'W', 'thief', {
      profileId: 'pf_wick',
      factionId: 'fc_night',
      standIn: true,
      firstAfterS: 20,
    })
    .spawner('shop', 'Chandlery watch', land(72, 108), 'E', 'chandlery', { ...watch, firstAfterS: 2 })
    .spawner('loft', 'Loft watch', land(134, 106), 'E', 'roofbeat', { ...watch, firstAfterS: 2 })
    .spawner('tower', 'Tower watch', quay(184, 50), 'W', 'pierwatch', { ...watch, firstAfterS: 3 })
    .spawner('lighter', 'Lamplighter', land(12, 102), 'E', 'lamplane', { factionId: 'fc_quay', firstAfterS: 4 })

  return isleLevel('Lanternquay by night', {
    note: 'The Watch walks its rounds between the warehouses of Lanternquay.',
    settings: {
      extent: { minX: 0, minY: 0, maxX: WIDE, maxY: DEEP },
      gridM: 1,
      cellM: 0.25,
      waterLevelM: 0,
      seed: 7,
      rehearseS: 300,
    },
    ground: made,
    solids: solids(),
    covers,
    profiles: {
      pf_warden: WARDEN,
      pf_wick: preset('Lamplighter'),
      pf_cart: preset('Tide-cart'),
      pf_skiff: preset('Skiff'),
      pf_gull: preset('Gull'),
    },
    factions: {
      fc_watch: { name: 'The Watch', hostileTo: ['fc_night'], ink: 'rust' },
      fc_night: { name: 'Night folk', pattern: 'striped', ink: 'plum' },
      fc_quay: { name: 'Quayfolk', pattern: 'dotted', ink: 'ochre' },
    },
    passages: {
      pg_crane: {
        name: 'Crane lift',
        kind: 'lift',
        from: [158, 40, QUAY + 0.62],
        to: [156, 40, 9],
        takesS: 14,
      },
      pg_loft: { name: 'Loft ladder', kind: 'ladder', from: land(171, 82), to: [169, 82, 6.2], takesS: 9 },
    },
    waypoints: sketch.waypoints,
    routes: sketch.routes,
    ...withCast(sketch, land, quay),
  })
}
