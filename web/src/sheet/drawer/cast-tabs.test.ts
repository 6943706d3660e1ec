// @vitest-environment happy-dom
import { newStep } from '@tidytrail/core/level'
import { at, briefOf, castLevel } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { useCastStore } from '../../stores/cast'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { mounted } from '../../testing/mounted'
import ArrivalsTab from './ArrivalsTab.vue'
import CastTab from './CastTab.vue'
import FactionsTab from './FactionsTab.vue'

vi.stubGlobal('fetch', () => new Promise(() => {}))

let levels: ReturnType<typeof useLevelStore>
let sheet: ReturnType<typeof useSheetStore>
beforeEach(() => {
  setActivePinia(createPinia())
  levels = useLevelStore()
  sheet = useSheetStore()
  levels.level = castLevel({
    squads: { sq_a: { name: 'Mole squad', factionId: 'fc_w', briefId: 'br_a', zoneId: 'zn_w' } },
    briefs: { br_a: briefOf([newStep('hold'), newStep('follow-route', { routeId: 'rt_a' })]) },
    spawners: {
      sp_a: at(10, 10, { name: 'Gate', squadId: 'sq_a', count: 4 }),
      sp_b: at(20, 10, { name: 'A name of very many letters '.repeat(7).slice(0, 200) }),
      sp_c: at(30, 10, { name: 'Käse ﷽ 橋', firstAfterS: 30, begins: 'left' }),
    },
  })
})
const row = (host: HTMLElement, name: string) =>
  [...host.querySelectorAll('tbody tr')].find((r) => r.textContent!.includes(name))!

describe('the table of the cast', () => {
  it('tells of every squad and spawner what it follows, holds and fights, its squad’s word where it has none', async () => {
    const tab = await mounted(CastTab)
    expect(tab.host.querySelectorAll('tbody tr')).toHaveLength(4)
    expect(row(tab.host, 'Gate').textContent).toContain('follows West, holds posts')
    expect(row(tab.host, 'Gate').textContent).toContain('Night')
    expect(row(tab.host, 'Gate').querySelector('option')!.textContent).toBe('none')
    expect(tab.field('faction of Gate').textContent).toContain('Watch (squad)')
    expect(row(tab.host, 'Käse').textContent).toContain('–')
    expect(tab.warnings).toEqual([])
    tab.end()
  })

  it('is changed where it stands, for all that are chosen together', async () => {
    const tab = await mounted(CastTab)
    await tab.type('faction of Gate', 'fc_n')
    expect(levels.doc.spawners.sp_a.factionId).toBe('fc_n')
    sheet.choose(['sp_b', 'sp_c'])
    await tab.type('squad of Käse ﷽ 橋', 'sq_a')
    expect([levels.doc.spawners.sp_b.squadId, levels.doc.spawners.sp_c.squadId]).toEqual(['sq_a', 'sq_a'])
    expect(levels.doc.spawners.sp_a.squadId).toBe('sq_a')
    await tab.type('how many Gate sends', '0')
    expect(levels.doc.spawners.sp_a.count).toBe(1)
    levels.undo()
    expect(levels.doc.spawners.sp_a.count).toBe(4)
    await tab.type('Find in the table', 'käse')
    expect(tab.host.querySelectorAll('tbody tr')).toHaveLength(1)
    tab.end()
  })
})

describe('the table of factions', () => {
  it('goes from neutral to friendly to hostile at a click, the same from either side', async () => {
    const tab = await mounted(FactionsTab)
    const pair = (a: string, b: string) =>
      [...tab.host.querySelectorAll('button')].find((x) => x.getAttribute('aria-label')?.startsWith(`${a} and ${b}:`))!
    expect(pair('Watch', 'Night').getAttribute('aria-label')).toBe('Watch and Night: hostile')
    pair('Night', 'Friends').click()
    await nextTick()
    expect(pair('Friends', 'Night').getAttribute('aria-label')).toBe('Friends and Night: friendly')
    pair('Friends', 'Night').click()
    await nextTick()
    expect(pair('Night', 'Friends').getAttribute('aria-label')).toBe('Night and Friends: hostile')
    expect(tab.warnings).toEqual([])
    tab.end()
  })

  it('says what it means that there is none, and makes one', async () => {
    levels.level = { ...levels.doc, factions: {}, spawners: {}, squads: {} }
    const tab = await mounted(FactionsTab)
    expect(tab.host.textContent).toContain('nobody is hostile to anybody')
    tab.button('Make a faction').click()
    await nextTick()
    expect(Object.values(levels.doc.factions)).toHaveLength(1)
    tab.end()
  })
})

describe('arrivals', () => {
  it('are ticks on a time line; what waits for something is told in words', async () => {
    const cast = useCastStore()
    const told = { places: [], first: undefined }
    cast.facts = {
      zones: {},
      spawners: {
        sp_a: { ...told, arrivals: [0, 2, 4, 6], fromStart: true },
        sp_c: { ...told, arrivals: [30], fromStart: false },
      },
    }
    const tab = await mounted(ArrivalsTab)
    const rows = [...tab.host.querySelectorAll('button')]
    expect(rows[0].querySelectorAll('path.stroke-pine')).toHaveLength(4)
    expect(rows[1].textContent).toContain('One agent, the first once somebody has left after 30 s.')
    rows[1].click()
    expect(sheet.chosen).toBe('sp_c')
    tab.end()
  })
})

describe('facts of the cast', () => {
  it('are asked for on the stage of the cast alone, and anew after each survey', async () => {
    const survey = useSurveyStore()
    const asked = vi.spyOn(survey, 'cast').mockResolvedValue({ spawners: {}, zones: {} })
    sheet.stage = 'routes'
    useCastStore()
    survey.sent = survey.seen = 1
    await nextTick()
    expect(asked).not.toHaveBeenCalled()
    sheet.stage = 'cast'
    await nextTick()
    expect(asked).toHaveBeenCalledTimes(1)
    await nextTick()
    survey.sent = survey.seen = 2
    await nextTick()
    await nextTick()
    expect(asked.mock.calls.length).toBeGreaterThanOrEqual(2)
    expect(asked).toHaveBeenLastCalledWith(levels.doc.settings.seed)
  })
})
