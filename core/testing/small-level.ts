import { blankLevel, levelSchema, type Level } from '@tidytrail/core/level'

/** A level with a little of much in it: a route over links, solids, heights, and a spawner with a brief. */
export const smallLevel = (): Level =>
  levelSchema.parse({
    ...blankLevel('Small'),
    waypoints: { wp_a: { at: [0, 0, 0] }, wp_b: { at: [9, 0, 0] }, wp_c: { at: [9, 9, 0], tags: ['x', 'y'] } },
    links: { ln_a: { fromId: 'wp_a', toId: 'wp_b' } },
    routes: {
      rt_a: {
        name: 'Round',
        stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
        linkIds: ['ln_a'],
      },
    },
    solids: {
      sd_a: { shape: 'box', name: 'Crate', at: [5, 5], sizeX: 1, sizeY: 1, baseM: 0, heightM: 1 },
      sd_b: {
        shape: 'prism',
        name: 'Shed',
        ring: [
          [0, 0],
          [4, 0],
          [4, 4],
        ],
        baseM: 0,
        heightM: 3,
      },
    },
    ground: {
      heights: {
        originX: 0,
        originY: 0,
        spacingM: 10,
        rows: [
          [0, 1],
          [2, 3],
          [4, 5],
        ],
      },
    },
    spawners: { sp_s: { name: 'Gate', at: [0, 0, 0], profileId: 'pf_warden', briefId: 'br_a' } },
    briefs: {
      br_a: {
        name: 'Walk',
        steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' }, bs_b: { kind: 'pause', forS: 2 } },
        order: ['bs_a', 'bs_b'],
      },
    },
  })
