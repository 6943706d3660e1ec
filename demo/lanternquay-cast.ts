import { newStep, newWhen, type LevelInput } from '@tidytrail/core/level'
import { oblong, type Sketch } from './build'

type Place = (x: number, y: number) => [number, number, number]

/** Who has more to do than to walk a round: sentries in turns, porters who come and go, a carter. */
export function withCast(sketch: Sketch, land: Place, quay: Place) {
  const zones: NonNullable<LevelInput['zones']> = {
    zn_pier: { name: 'Crane pier', purpose: 'hold', ring: oblong(140.4, 26.4, 171.6, 47) },
    zn_office: { name: 'Office corner', purpose: 'guard', ring: oblong(172, 67, 181, 82) },
    zn_green: {
      name: 'Drying green',
      purpose: 'wander',
      shape: 'circle',
      ring: [
        [190, 111],
        [199, 111],
      ],
    },
    zn_tower: { name: 'Tower quay', purpose: 'wander', ring: oblong(174, 50, 184, 61) },
  }
  const posts: NonNullable<LevelInput['posts']> = {
    ps_crane: { name: 'Crane side', at: quay(142, 44), facingRad: Math.PI, worth: 5, zoneId: 'zn_pier' },
    ps_sea: { name: 'Seaward rail', at: quay(170.6, 38), facingRad: 0, worth: 3, zoneId: 'zn_pier' },
    ps_office: { name: 'Office corner', at: land(179, 71), facingRad: 0, worth: 8, zoneId: 'zn_office' },
  }
  const alarm = newWhen('sees', 'bw_thief', { withinM: 22 })
  const briefs: NonNullable<LevelInput['briefs']> = {
    ...sketch.briefs,
    br_sentry: {
      name: 'Sentry',
      note: 'Leaves the post for whom it sees, and comes back.',
      steps: {
        bs_hold: newStep('hold', { turnS: 45 }),
        bs_chase: newStep('chase', { gait: 'run', loseS: 6, forS: 25, whenId: 'bw_thief' }),
        bs_search: newStep('search', { forS: 12, radiusM: 5, whenId: 'bw_thief' }),
      },
      order: ['bs_hold', 'bs_chase', 'bs_search'],
      whens: [alarm],
    },
    br_porter: {
      name: 'Porter',
      steps: {
        bs_carry: newStep('wander', { zoneId: 'zn_green', others: [{ zoneId: 'zn_tower', weight: 1 }], forS: 80 }),
        bs_home: newStep('leave'),
      },
      order: ['bs_carry', 'bs_home'],
    },
    br_carter: {
      name: 'Carter',
      steps: {
        bs_board: newStep('board', { spawnerId: 'sp_handcart' }),
        bs_drive: newStep('follow-route', { routeId: 'rt_cartway', rounds: 1 }),
        bs_out: newStep('get-out'),
        bs_rest: newStep('pause', { forS: 12 }),
        bs_again: newStep('again'),
      },
      order: ['bs_board', 'bs_drive', 'bs_out', 'bs_rest', 'bs_again'],
    },
  }
  const squads: NonNullable<LevelInput['squads']> = {
    sq_pier: { name: 'Pier squad', factionId: 'fc_watch', briefId: 'br_sentry', zoneId: 'zn_pier' },
    sq_office: { name: 'Office squad', factionId: 'fc_watch', briefId: 'br_sentry', zoneId: 'zn_office' },
  }
  const spawners: NonNullable<LevelInput['spawners']> = {
    ...sketch.spawners,
    sp_pier: {
      name: 'Pier sentries',
      at: quay(156, 46),
      profileId: 'pf_warden',
      squadId: 'sq_pier',
      where: 'ranks',
      files: 3,
      apartM: 1.4,
      count: 3,
      atOnce: 3,
      facingRad: Math.PI / 2,
      calls: 'Pier sentry #',
    },
    sp_office: { name: 'Office sentry', at: land(176, 76), profileId: 'pf_warden', squadId: 'sq_office' },
    sp_porters: {
      name: 'Porters',
      at: land(190, 111),
      profileId: 'pf_wick',
      factionId: 'fc_quay',
      briefId: 'br_porter',
      where: 'area',
      zoneId: 'zn_green',
      count: 8,
      alive: 'keep',
      everyS: 3,
      spreadS: 2,
      firstAfterS: 2,
      calls: 'Porter #',
    },
    sp_handcart: { name: 'Handcart', at: land(30, 99.5), profileId: 'pf_cart', factionId: 'fc_quay', facingRad: 0 },
    sp_carter: {
      name: 'Carter',
      at: land(22, 98),
      profileId: 'pf_wick',
      factionId: 'fc_quay',
      briefId: 'br_carter',
      firstAfterS: 3,
    },
  }
  // Past three of the Watch: the loft's, the chandlery's, and whoever comes round the quay.
  const sneakLines: NonNullable<LevelInput['sneakLines']> = {
    sl_past: {
      name: 'Past the warehouses',
      note: 'From behind the office, along the back lane and down between the warehouses to the quay.',
      // Over the foot of the loft's ramp, and just clear of the corners of the warehouses.
      points: [
        land(176, 92),
        [149.1, 100.3, 1.22],
        [145, 100.3, 1.48],
        land(129.4, 102.5),
        land(104, 102.5),
        land(103, 75),
        land(103, 66),
      ],
    },
  }
  const watchSpots: NonNullable<LevelInput['watchSpots']> = {
    ws_door: { name: 'Warehouse door', at: land(103, 68), wantedS: 10 },
  }
  const trials: NonNullable<LevelInput['trials']> = {
    tl_past: {
      kind: 'line',
      lineId: 'sl_past',
      windowS: 6,
      everyS: 36,
      note: 'Just fails: a pause two seconds longer at the lookout of the roof beat mends it.',
    },
    tl_stuck: { kind: 'stuck', longestS: 5 },
    tl_carter: { kind: 'away', whom: 'spawner', spawnerId: 'sp_carter', zoneId: 'zn_pier', distanceM: 5 },
    tl_porters: { kind: 'count', whom: 'spawner', spawnerId: 'sp_porters', least: 4, most: 8, fromS: 40 },
  }
  return { zones, posts, briefs, squads, spawners, sneakLines, watchSpots, trials }
}
