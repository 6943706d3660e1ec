// @vitest-environment happy-dom
import { footprint } from '@tidytrail/core/ground'
import {
  COLLECTIONS,
  readLevel,
  setThings,
  stepsOf,
  thingOf,
  WARDEN,
  blankLevel,
  type Collection,
  type Level,
} from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, type Component } from 'vue'
import { useCastStore } from '../stores/cast'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { mounted } from '../testing/mounted'
import { viewIn } from '.'
import PlainCard from './card/PlainCard.vue'
import LinkCard from './link/LinkCard.vue'
import StopCard from './route/StopCard.vue'

const ring = [
  [10, 10],
  [30, 10],
  [30, 30],
]
const hash = 'a'.repeat(64)
/** One thing of every kind. */
const one = (): Level =>
  readLevel({
    ...blankLevel('One of each'),
    profiles: { pf_a: WARDEN, pf_b: { ...WARDEN, name: 'Porter' } },
    solids: { sd_a: { shape: 'stairs', name: 'Steps', at: [5, 5], sizeX: 4, sizeY: 2, baseM: 0, heightM: 2 } },
    meshes: { ms_a: { name: 'Deck', assetId: hash, at: [1, 2, 3] } },
    underlays: { ul_a: { name: 'Plan', assetId: hash, at: [0, 0], metresPerPixel: 0.1 } },
    covers: { cv_a: { name: 'Lane', kind: 'road', ring }, cv_b: { name: 'Bog', kind: 'mud', ring } },
    reachAreas: { ra_a: { name: 'Yard', ring, profileIds: ['pf_a'] } },
    passages: { pg_a: { name: 'Gate', kind: 'door', from: [1, 1, 0], to: [4, 1, 0], state: 'locked' } },
    markers: { mk_a: { name: 'Bell', at: [7, 7, 0] } },
    waypoints: { wp_a: { at: [20, 20, 0] }, wp_b: { at: [40, 20, 0] }, wp_c: { at: [50, 50, 0] } },
    links: { ln_a: { fromId: 'wp_a', toId: 'wp_b', twoWay: false } },
    routes: {
      rt_a: {
        name: 'Beat',
        stops: { st_a: { waypointId: 'wp_a', pause: { minS: 1, maxS: 4 } }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
      },
    },
    roads: { rd_a: { name: 'Street', points: [[5, 40, 0], [60, 40, 0]] } }, // prettier-ignore
    junctions: { jn_a: { name: 'Cross', ring } },
    zones: { zn_a: { name: 'Square', ring } },
    posts: { ps_a: { name: 'Stand', at: [9, 9, 0] } },
    factions: { fc_a: { name: 'Reds' }, fc_b: { name: 'Blues' } },
    squads: { sq_a: { name: 'Gate squad', zoneId: 'zn_a' } },
    signals: { sg_a: { name: 'Bell call' } },
    briefs: {
      br_a: {
        name: 'Walk',
        steps: { bs_a: { kind: 'follow-route', routeId: 'rt_a' }, bs_b: { kind: 'pause', forS: 5 } },
        order: ['bs_a', 'bs_b'],
      },
    },
    spawners: { sp_a: { name: 'Gatehouse', at: [3, 3, 0], profileId: 'pf_a', briefId: 'br_a', count: 3 } },
    counters: { ct_a: { name: 'Toll' } },
    watchSpots: { ws_a: { name: 'Door', at: [6, 6, 0] } },
    sneakLines: { sl_a: { name: 'Past', points: [[2, 2, 0], [9, 2, 0]] } }, // prettier-ignore
    trials: { tl_a: { kind: 'away', whom: 'faction', factionId: 'fc_a', zoneId: 'zn_a' } },
  })

// Assets are asked for as soon as a level refers to them; here none ever comes.
vi.stubGlobal('fetch', () => new Promise(() => {}))

let levels: ReturnType<typeof useLevelStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
  levels.level = one()
})

const cardOf = (id: string): [Component, object] => {
  const { in: collection } = thingOf(levels.doc, id)!
  const view = viewIn(collection)!
  return view.card ? [view.card, { id }] : [PlainCard, { id, in: collection, tone: view.tone }]
}
const first = (c: Collection) => Object.keys(levels.doc[c])[0]

describe('the card of', () => {
  const shown = COLLECTIONS.filter((c) => viewIn(c) && c !== 'links')

  it.each(shown)('one of the %s can be opened without a complaint, and names every field', async (collection) => {
    const card = await mounted(...cardOf(first(collection)))
    expect(card.warnings).toEqual([])
    for (const input of card.host.querySelectorAll('input:not([type=checkbox]), select, textarea')) {
      const named = input.getAttribute('aria-label') ?? input.closest('label')?.textContent?.trim()
      expect(named, input.outerHTML.slice(0, 120)).toBeTruthy()
    }
    card.end()
  })

  it.each(shown)('one of the %s leaves a locked thing alone', async (collection) => {
    const id = first(collection)
    if (!('locked' in levels.doc[collection][id])) return
    levels.level = {
      ...levels.doc,
      [collection]: { ...levels.doc[collection], [id]: { ...levels.doc[collection][id], locked: true } },
    }
    const card = await mounted(...cardOf(id))
    const open = [...card.host.querySelectorAll('input, select')].filter((e) => !e.closest('fieldset[disabled]'))
    expect(open.map((e) => e.getAttribute('aria-label'))).toEqual([])
    card.end()
  })

  it('stairs tells who cannot climb them, and its figures can be sums', async () => {
    const card = await mounted(...cardOf('sd_a'))
    await card.type('steps', '4')
    expect(card.host.textContent).toContain('Each step rises 50 cm')
    expect(card.host.textContent).toContain('Too high for Warden, Porter')
    await card.type('width, m', '2 * 3')
    expect(levels.doc.solids.sd_a).toMatchObject({ steps: 4, sizeY: 6 })
    card.end()
  })

  it('a solid is moved by the figures of its middle, and settles on the ground under it', async () => {
    const card = await mounted(...cardOf('sd_a'))
    const before = footprint(levels.doc.solids.sd_a)
    await card.type('east, m', String(Number(card.field('east, m').value) + 3))
    expect(footprint(levels.doc.solids.sd_a)).toEqual(before.map(([x, y]) => [expect.closeTo(x + 3, 6), y]))
    await card.type('underside at, m', '7')
    expect(levels.doc.solids.sd_a.baseM).toBe(7)
    card.button('Settle').click()
    expect(levels.doc.solids.sd_a.baseM).toBe(0)
    card.button('Delete').click()
    expect(levels.doc.solids).toEqual({})
    card.end()
  })

  it('a mesh whose file has not come yet says so', async () => {
    const card = await mounted(...cardOf('ms_a'))
    expect(card.host.textContent).toContain('It is being fetched.')
    card.end()
  })

  it('a reach area tells its size, and lets go of a profile', async () => {
    const card = await mounted(...cardOf('ra_a'))
    expect(card.host.textContent).toContain('200 m²')
    await card.tick('Warden', false)
    expect(levels.doc.reachAreas.ra_a.profileIds).toEqual([])
    await card.tick('Porter', true)
    expect(levels.doc.reachAreas.ra_a.profileIds).toEqual(['pf_b'])
    card.end()
  })

  it('a passage asks until when only while it is locked', async () => {
    const card = await mounted(...cardOf('pg_a'))
    expect(card.field('until')).toBeTruthy()
    await card.type('state', 'open')
    expect(levels.doc.passages.pg_a.state).toBe('open')
    expect(card.field('until')).toBeNull()
    card.end()
  })

  it('a route has a speed limit that can be set in kilometres an hour and taken away', async () => {
    const card = await mounted(...cardOf('rt_a'))
    card.button('All figures and settings').click()
    await nextTick()
    await card.type('speed limit, km/h', '18')
    expect(levels.doc.routes.rt_a.speedLimitMps).toBe(5)
    card.host.querySelector<HTMLButtonElement>('[aria-label="Clear speed limit"]')!.click()
    expect(levels.doc.routes.rt_a.speedLimitMps).toBeNull()
    card.end()
  })

  it('a brief is sentences in their order; the one that is opened has the fields of its kind', async () => {
    const card = await mounted(...cardOf('br_a'))
    const sentences = () =>
      [...card.host.querySelectorAll('ol[aria-label=Steps] > li')].map((li) => li.textContent!.trim())
    expect(sentences()).toEqual(['1Follow Beat, one way.', '2Pause for 5 s.'])
    card.button('Pause for 5 s.').click()
    await nextTick()
    await card.type('for, s', '12')
    expect(levels.doc.briefs.br_a.steps.bs_b).toMatchObject({ kind: 'pause', forS: 12 })
    card.button('Follow Beat, one way.').click()
    await nextTick()
    await card.type('route', '')
    await card.type('gait', 'run')
    expect(levels.doc.briefs.br_a.steps.bs_a).toMatchObject({ routeId: null, gait: 'run' })
    expect(sentences()[0]).toContain('Follow a route that is not chosen yet at a run.')
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('a brief is added to after the step that is open, put in another order, and taken from', async () => {
    const card = await mounted(...cardOf('br_a'))
    const kinds = () => levels.doc.briefs.br_a.order.map((s) => levels.doc.briefs.br_a.steps[s].kind)
    const press = async (label: string) => {
      card.host.querySelector<HTMLButtonElement>(`button[aria-label="${label}"]`)!.click()
      await nextTick()
    }
    await card.type('add a step', 'again')
    expect(kinds()).toEqual(['follow-route', 'pause', 'again'])
    card.button('Follow Beat, one way.').click()
    await nextTick()
    await card.type('add a step', 'wander')
    expect(kinds()).toEqual(['follow-route', 'wander', 'pause', 'again'])
    await card.type('zone', 'zn_a')
    await press('Earlier')
    expect(kinds()).toEqual(['wander', 'follow-route', 'pause', 'again'])
    await press('Take this step away')
    expect(kinds()).toEqual(['follow-route', 'pause', 'again'])
    expect(Object.keys(levels.doc.briefs.br_a.steps)).toHaveLength(3)
    levels.undo()
    expect(kinds()[0]).toBe('wander')
    expect(Object.values(levels.doc.briefs.br_a.steps)[3]).toMatchObject({ zoneId: 'zn_a' })
    card.end()
  })

  it('a spawner says what it is told, and a brief of its own is written for it where there is none', async () => {
    const told = await mounted(...cardOf('sp_a'))
    expect(told.host.textContent).toContain('Follow Beat, one way. Pause for 5 s.')
    told.end()
    levels.perform(setThings, { things: [{ in: 'spawners', id: 'sp_a', set: { briefId: null } }] })
    const card = await mounted(...cardOf('sp_a'))
    expect(card.host.textContent).toContain('Nothing to do.')
    card.button('Write a brief').click()
    const { briefId } = levels.doc.spawners.sp_a
    expect(levels.doc.briefs[briefId!]).toMatchObject({ name: 'Brief of Gatehouse', order: [] })
    expect(useSheetStore().chosen).toBe(briefId)
    card.end()
  })

  it('a brief is begun from what others begin with, and is broken off by standing sentences with steps of their own', async () => {
    levels.perform(setThings, { things: [{ in: 'briefs', id: 'br_a', set: { steps: {}, order: [] } }] })
    const card = await mounted(...cardOf('br_a'))
    card.button('Sentry').click()
    await nextTick()
    const brief = () => levels.doc.briefs.br_a
    expect(stepsOf(brief()).map((s) => brief().steps[s].kind)).toEqual(['hold'])
    expect(card.host.textContent).toContain('If you see someone hostile')
    expect(stepsOf(brief(), brief().whens[0].id).map((s) => brief().steps[s].kind)).toEqual(['chase', 'search'])
    await card.type('add a standing sentence', 'time')
    await card.type('after, s', '30')
    await card.type('then', 'again')
    expect(brief().whens[1]).toMatchObject({ kind: 'time', afterS: 30, after: 'again' })
    await card.type('add a step to sentence 2', 'leave')
    expect(stepsOf(brief(), brief().whens[1].id)).toHaveLength(1)
    // Taken away it takes its steps along.
    card.button('When 30 s have passed since you came … then begins its brief again.').click()
    await nextTick()
    card.host.querySelector<HTMLButtonElement>('[aria-label="Take this sentence away"]')!.click()
    await nextTick()
    expect(brief().whens).toHaveLength(1)
    expect(Object.keys(brief().steps)).toHaveLength(3)
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('a step may be about one of several, by weight', async () => {
    const card = await mounted(...cardOf('br_a'))
    card.button('Follow Beat, one way.').click()
    await nextTick()
    card.button('Or another route').click()
    await nextTick()
    await card.type('or route 2', 'rt_a')
    await card.type('weight 2', '3')
    expect(levels.doc.briefs.br_a.steps.bs_a).toMatchObject({ others: [{ routeId: 'rt_a', weight: 3 }] })
    expect(card.host.textContent).toContain('one of Beat, one way 1, Beat, one way 3')
    card.host.querySelector<HTMLButtonElement>('[aria-label="Take route 2 away"]')!.click()
    expect(levels.doc.briefs.br_a.steps.bs_a).toMatchObject({ others: [] })
    card.end()
  })

  it('a spawner asks only for what its places and its time need, and says it in a sentence', async () => {
    const card = await mounted(...cardOf('sp_a'))
    const labels = () => [...card.host.querySelectorAll('[aria-label]')].map((e) => e.getAttribute('aria-label'))
    expect(labels()).not.toContain('in zone')
    await card.type('where', 'area')
    expect(labels()).toContain('in zone')
    await card.type('where', 'spots')
    expect(labels()).not.toContain('in zone')
    card.button('Add a spot').click()
    await nextTick()
    expect(levels.doc.spawners.sp_a.spots).toEqual([[5, 3, 0]])
    await card.type('which spot', 'random')
    await card.type('weight of spot 2', '4')
    expect(levels.doc.spawners.sp_a.weights).toEqual([1, 4])
    await card.type('that is', 'keep')
    await card.type('begins', 'left')
    await card.type('the spawner', 'sp_a')
    expect(card.host.textContent).toContain(
      '3 agents kept alive: the first once someone of Gatehouse has left at once, then one every 2 s; whoever leaves is replaced.',
    )
    card.button('Mix with another kind').click()
    await nextTick()
    await card.type('profile of 1', 'pf_b')
    expect(levels.doc.spawners.sp_a.mix).toMatchObject([{ profileId: 'pf_b', weight: 1 }])
    expect(card.host.textContent).toContain('On nobody’s side until one is picked')
    expect(card.warnings).toEqual([])
    card.end()
  })

  it('a faction says how it stands to each other one, both ways at once', async () => {
    const card = await mounted(...cardOf('fc_a'))
    await card.type('stands to Blues', 'hostile')
    expect(levels.doc.factions.fc_a.hostileTo).toEqual(['fc_b'])
    expect(levels.doc.factions.fc_b.hostileTo).toEqual(['fc_a'])
    await card.type('stands to Blues', 'friendly')
    expect([levels.doc.factions.fc_a.hostileTo, levels.doc.factions.fc_a.friendlyTo]).toEqual([[], ['fc_b']])
    card.end()
  })

  it('a squad takes spawners in and lets them go, and lists the posts of its zone', async () => {
    levels.perform(setThings, { things: [{ in: 'posts', id: 'ps_a', set: { zoneId: 'zn_a' } }] })
    const card = await mounted(...cardOf('sq_a'))
    expect(card.host.textContent).toContain('Posts of Square')
    expect(card.host.textContent).toContain('Stand')
    await card.type('take in', 'sp_a')
    expect(levels.doc.spawners.sp_a.squadId).toBe('sq_a')
    card.host.querySelector<HTMLButtonElement>('[aria-label="Take Gatehouse out"]')!.click()
    expect(levels.doc.spawners.sp_a.squadId).toBeNull()
    card.end()
  })

  it('a zone is offered posts, of which one takes some, and the others are gone once it is left', async () => {
    const survey = useSurveyStore()
    const place = (x: number, worth: number) => ({ at: [x, 12, 0] as const, facingRad: 1, arcRad: 2, worth })
    vi.spyOn(survey, 'suggestPosts').mockResolvedValue([place(12, 10), place(20, 6), place(28, 3)])
    const sheet = useSheetStore()
    sheet.stage = 'cast'
    sheet.choose(['zn_a'])
    const cast = useCastStore()
    const card = await mounted(...cardOf('zn_a'))
    card.button('Suggest posts').click()
    await new Promise((r) => setTimeout(r))
    await nextTick()
    expect(cast.suggested?.posts).toHaveLength(3)
    expect(Object.keys(levels.doc.posts)).toHaveLength(1)
    card.button('Take 2 worth 6').click()
    await nextTick()
    expect(Object.values(levels.doc.posts)[1]).toMatchObject({ at: [20, 12, 0], worth: 6, zoneId: 'zn_a' })
    expect(cast.suggested?.posts.map((p) => p.worth)).toEqual([10, 3])
    card.button('Take all 2').click()
    await nextTick()
    expect(Object.keys(levels.doc.posts)).toHaveLength(4)
    expect(cast.suggested).toBeUndefined()
    card.button('Suggest posts').click()
    await new Promise((r) => setTimeout(r))
    sheet.choose([])
    await nextTick()
    expect(cast.suggested).toBeUndefined()
    card.end()
  })

  it('a zone takes in posts of no zone, and says who is told to be in it', async () => {
    const card = await mounted(...cardOf('zn_a'))
    expect(card.host.textContent).toContain('Gate squad')
    card.button('Take the post of no zone').click()
    await nextTick()
    expect(levels.doc.posts.ps_a.zoneId).toBe('zn_a')
    await card.type('purpose', 'keep-out')
    const tick = [...card.host.querySelectorAll<HTMLInputElement>('input[type=checkbox]')].find((i) =>
      i.closest('label')?.textContent?.includes('Reds'),
    )!
    tick.checked = true
    tick.dispatchEvent(new Event('change'))
    expect(levels.doc.zones.zn_a.factionIds).toEqual(['fc_a'])
    card.end()
  })

  it('a cover says where it lies among others, and brings it forward', async () => {
    const card = await mounted(...cardOf('cv_a'))
    expect(card.host.textContent).toContain('1 of 2 from below')
    card.button('Forward').click()
    await nextTick()
    expect(card.host.textContent).toContain('2 of 2 from below')
    expect(levels.doc.covers.cv_a.rank).toBeGreaterThan(levels.doc.covers.cv_b.rank)
    card.end()
  })
})

describe('the card of several stops', () => {
  it('says where they differ, and sets them all', async () => {
    const card = await mounted(StopCard, { ids: ['st_a', 'st_b'] })
    expect(card.warnings).toEqual([])
    expect(card.field('pauses at least, s').placeholder).toBe('differs')
    await card.type('pauses at least, s', '3')
    const { st_a: a, st_b: b } = levels.doc.routes.rt_a.stops
    expect([a.pause.minS, b.pause.minS]).toEqual([3, 3])
    expect(a.pause.maxS).toBeGreaterThanOrEqual(3)
    card.end()
  })

  it('moves one stop by its figures, and deletes it with the waypoint nobody else uses', async () => {
    const card = await mounted(StopCard, { ids: ['st_b'] })
    await card.type('north, m', '25')
    expect(levels.doc.waypoints.wp_b.at).toEqual([40, 25, 0])
    levels.level = { ...levels.doc, links: {} }
    card.button('Delete').click()
    expect(levels.doc.routes.rt_a.order).toEqual(['st_a'])
    expect(Object.keys(levels.doc.waypoints)).toEqual(['wp_a', 'wp_c'])
    expect(useSheetStore().selected).toEqual(['rt_a'])
    card.end()
  })
})

it('the card of a link turns it round, and lets it lead both ways', async () => {
  const card = await mounted(LinkCard, { ids: ['ln_a'] })
  card.button('Turn it round').click()
  expect(levels.doc.links.ln_a).toMatchObject({ fromId: 'wp_b', toId: 'wp_a' })
  const tick = card.host.querySelector<HTMLInputElement>('input[type=checkbox]')!
  tick.checked = true
  tick.dispatchEvent(new Event('change'))
  expect(levels.doc.links.ln_a.twoWay).toBe(true)
  card.end()
})
