import {
  addLinks,
  addThing,
  haltSchema,
  junctionSchema,
  levelSchema,
  phaseSchema,
  yieldSchema,
  roadSchema,
  spawnerSchema,
  type Edit,
  type Junction,
  type Route,
} from '@tidytrail/core/level'

type Place = readonly [x: number, y: number]
type Apply = <A>(edit: Edit<A>, args: A) => void

/** Faults of lanes and junctions, planted among ferry lanes on the open water. */
export function plantLanes(apply: Apply): void {
  const lane = (key: string, places: readonly Place[], more: Partial<Route> & { first?: string } = {}) => {
    const { first, ...said } = more
    const stops: Record<string, { waypointId: string }> = {}
    places.forEach(([x, y], k) => {
      const waypointId = k === 0 && first ? first : `wp_ferry${key}${k}`
      if (waypointId !== first) {
        const thing = levelSchema.shape.waypoints.parse({ [waypointId]: { at: [x, y, 0] } })[waypointId]
        apply(addThing, { in: 'waypoints', id: waypointId, thing })
      }
      stops[`st_ferry${key}${k}`] = { waypointId }
    })
    const id = `rt_ferry${key}`
    const route = levelSchema.shape.routes.parse({
      [id]: {
        name: `Ferry lane ${key}`,
        kind: 'lane',
        legs: 'drawn',
        widthM: 2,
        stops,
        order: Object.keys(stops),
        ...said,
      },
    })[id]
    apply(addThing, { in: 'routes', id, thing: route })
  }
  /** Two lanes that cross, with a junction about them. */
  const crossing = (key: string, x: number, junction: Partial<Junction>) => {
    lane(`${key}1`, [[x - 5, 16], [x + 0.5, 16], [x + 5, 16]]) // prettier-ignore
    lane(`${key}2`, [[x, 11], [x, 15.5], [x, 21]]) // prettier-ignore
    const ring = [[x - 3, 13], [x + 3, 13], [x + 3, 19], [x - 3, 19]] // prettier-ignore
    const thing = junctionSchema.parse({ name: `Ferry crossing ${key}`, ring, ...junction })
    apply(addThing, { in: 'junctions', id: `jn_ferry${key}`, thing })
  }

  // Three in a row, of which the middle one was drawn the wrong way round, and a gap after them.
  lane('A', [[24, 6], [32, 6]]) // prettier-ignore
  lane('B', [[41, 6], [33, 6]], { note: 'It was drawn from east to west.' }) // prettier-ignore
  lane('C', [[42, 6], [50, 6]], { halts: [haltSchema.parse({ where: 'on', fromM: 2, toM: 20 })], note: 'Its landing stage is longer than the lane.' }) // prettier-ignore
  lane('D', [[53, 6], [60, 6]], { note: 'C ends three metres before it.' }) // prettier-ignore
  // One that turns a corner on the spot, and ends where nobody goes on.
  lane('E', [[60, 6], [60, 14]], { first: 'wp_ferryD1', note: 'From D into this one the bow would have to jump.' }) // prettier-ignore
  // A road that nothing leads to.
  const road = { name: 'Ferry road', points: [[24, 26, 0], [60, 26, 0]], laneM: 2, note: 'Nobody comes to it.' } // prettier-ignore
  apply(addThing, { in: 'roads', id: 'rd_ferry', thing: roadSchema.parse(road) })
  // A track on which no two carts could pass each other anywhere.
  const track = { name: 'Ferry track', points: [[66, 26, 0], [92, 26, 0]], laneM: 1.5, track: true, curve: 'straight', note: 'Its lanes are narrower than a cart.' } // prettier-ignore
  apply(addThing, { in: 'roads', id: 'rd_ferrytrack', thing: roadSchema.parse(track) })
  // Two in one line.
  lane('F', [[66, 6], [84, 6]]) // prettier-ignore
  lane('G', [[70, 6], [92, 6]], { note: 'It lies over F.' }) // prettier-ignore
  // Crossings: without a junction, with one that says nothing, and with signals that are no good.
  lane('H1', [[95, 16], [105, 16]]) // prettier-ignore
  lane('H2', [[100, 11], [100, 21]], { note: 'Nothing says who goes first where it crosses H1.' }) // prettier-ignore
  crossing('K', 115, { note: 'It has an outline, and no rule.' })
  const laneIds = (key: string) => [`rt_ferry${key}1`, `rt_ferry${key}2`]
  crossing('L', 130, {
    control: 'signals',
    phases: [phaseSchema.parse({ name: 'All at once', laneIds: laneIds('L') })],
    note: 'Both have green together.',
  })
  crossing('M', 145, {
    control: 'signals',
    phases: [
      phaseSchema.parse({ name: 'Only one', laneIds: laneIds('M').slice(0, 1) }),
      phaseSchema.parse({ name: 'Walkers', greenS: 1, amberS: 0, allRedS: 1, laneIds: ['rt_ferryR'] }),
    ],
    note: 'The one from the south never has green, and who walks over the way in hardly any.',
  })
  // Over the way in to it people walk, with green for a second.
  lane('R', [[141, 13], [141, 19]], { use: 'walk', note: 'Their green is over before they are.' }) // prettier-ignore
  crossing('N', 190, {
    control: 'give-way',
    yields: [yieldSchema.parse({ laneId: 'rt_ferryN1', toLaneId: 'rt_ferryN2', watchM: 4 })],
    note: 'It was told to look four metres far.',
  })
  // A way round a corner of one metre.
  lane('Q1', [[176, 6], [184, 6]]) // prettier-ignore
  lane('Q2', [[185, 7], [185, 10]], { atEnd: 'leave', note: 'No cart gets round from Q1 into it.' }) // prettier-ignore
  apply(addLinks, { links: [{ id: 'ln_ferryQ', fromId: 'wp_ferryQ11', toId: 'wp_ferryQ20', twoWay: false }] })
  // Those who come onto C are told to go where no lane from there leads.
  const ferry = { name: 'Ferry stream', at: [42, 6, 0], where: 'lanes', laneIds: ['rt_ferryC'], bound: [{ laneId: 'rt_ferryF', share: 1 }], perH: 5, headways: 'even', warm: false, profileId: 'pf_truck', factionId: 'fc_watch', note: 'No way leads from C to F.' } // prettier-ignore
  apply(addThing, { in: 'spawners', id: 'sp_ferry', thing: spawnerSchema.parse(ferry) })
  // Three that cross in a triangle, each of which waits for the next.
  lane('P1', [[158, 12], [163, 14], [174, 14]]) // prettier-ignore
  lane('P2', [[172, 9], [170, 13], [164, 23]]) // prettier-ignore
  lane('P3', [[169, 22], [166, 20], [160, 10]]) // prettier-ignore
  const round = ['P1', 'P2', 'P3'].map((key) => `rt_ferry${key}`)
  apply(addThing, {
    in: 'junctions',
    id: 'jn_ferryP',
    thing: junctionSchema.parse({
      name: 'Ferry triangle',
      ring: [[159.5, 11.5], [172, 10], [172.5, 15], [167, 21.2], [164.5, 21]], // prettier-ignore
      control: 'give-way',
      yields: round.map((laneId, k) => ({ laneId, toLaneId: round[(k + 1) % 3] })),
      note: 'Each was told to let the next one go.',
    }),
  })
}
