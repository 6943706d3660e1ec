// @vitest-environment happy-dom
import type { Finding, Fix } from '@tidytrail/core/checks'
import { blankLevel, readLevel, setThings, type Level } from '@tidytrail/core/level'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { mounted } from '../../testing/mounted'
import { toasts } from '../../ui/toasts'
import DrawerPanel from './DrawerPanel.vue'

vi.stubGlobal('fetch', () => new Promise(() => {}))

const level = (): Level =>
  readLevel({
    ...blankLevel('Quay'),
    waypoints: { wp_a: { at: [20, 20, 0] }, wp_b: { at: [40, 20, 0] } },
    routes: {
      rt_a: {
        name: 'Beat',
        stops: { st_a: { waypointId: 'wp_a' }, st_b: { waypointId: 'wp_b' } },
        order: ['st_a', 'st_b'],
      },
      rt_n: { name: 'Net', kind: 'network', stops: { st_n: { waypointId: 'wp_a' } }, order: ['st_n'] },
    },
  })
const finding = (check: string, subject: string, more: Partial<Finding> = {}): Finding => ({
  check,
  severity: 'warning',
  stage: 'routes',
  subjects: [subject],
  at: [20, 20, 0],
  message: `${check} of ${subject}`,
  ...more,
})

const called = (id: string, name: string) => ({ things: [{ in: 'routes' as const, id, set: { name } }], word: name })
const rename = (id: string, name: string): Fix => ({
  label: `Call it ${name}`,
  edit: 'setThings',
  args: called(id, name),
})

let sheet: ReturnType<typeof useSheetStore>
let levels: ReturnType<typeof useLevelStore>
let survey: ReturnType<typeof useSurveyStore>
beforeEach(() => {
  setActivePinia(createPinia())
  sheet = useSheetStore()
  levels = useLevelStore()
  survey = useSurveyStore()
  levels.level = level()
  survey.sent = survey.seen = 1
})

/** The drawer with its tabs by their words. */
async function drawer() {
  const panel = await mounted(DrawerPanel)
  const all = () => [...panel.host.querySelectorAll<HTMLElement>('[role=tab]')]
  return {
    ...panel,
    tabs: () => all().map((t) => t.textContent!.trim()),
    asked: () =>
      all()
        .find((t) => t.getAttribute('aria-selected') === 'true')!
        .textContent!.trim(),
    title: () => panel.host.querySelector('h2')!.textContent!.trim(),
    async show(name: string) {
      all()
        .find((t) => t.textContent!.trim() === name)!
        .click()
      await nextTick()
    },
  }
}

describe('the drawer', () => {
  it('says that nothing is wrong, and is folded while there is nothing to show', async () => {
    const { tabs, title, host, warnings, end } = await drawer()
    expect(tabs()).toEqual(['Findings 0', 'Changes'])
    expect(title()).toBe('The checks find nothing wrong')
    expect(host.querySelector('table')).toBeNull()
    survey.sent++
    await nextTick()
    expect(title()).toBe('The checks are being run')
    expect(warnings).toEqual([])
    end()
  })

  it('has the side view of a route that is chosen, or one of its stops, but not of a network', async () => {
    const { tabs, title, show, end } = await drawer()
    for (const [chosen, there] of [
      ['rt_a', true],
      ['st_b', true],
      ['rt_n', false],
      ['st_n', false],
    ] as const) {
      sheet.choose([chosen])
      await nextTick()
      expect(tabs().includes('Side view'), chosen).toBe(there)
    }
    sheet.choose(['rt_a'])
    await nextTick()
    await show('Side view')
    expect(title()).toBe('Beat from the side')
    sheet.choose([])
    await nextTick()
    expect(title()).not.toContain('side')
    end()
  })

  it('has a tab for the rehearsal on its stage alone, which comes first', async () => {
    const { tabs, asked, end } = await drawer()
    sheet.stage = 'rehearse'
    sheet.openDrawer('run')
    await nextTick()
    expect(tabs()[0]).toBe('Run')
    expect(asked()).toBe('Run')
    sheet.stage = 'routes'
    await nextTick()
    expect(tabs()).not.toContain('Run')
    expect(asked()).toBe('Findings 0')
    end()
  })

  it('lists findings, chooses what one is about, and mends one or all of its check as a step', async () => {
    const fixes = { rt_a: rename('rt_a', 'Quay beat'), rt_n: rename('rt_n', 'Quay net') }
    survey.findings = [
      finding('routes.name', 'rt_a', { severity: 'blocker', fix: fixes.rt_a }),
      finding('routes.name', 'rt_n', { fix: fixes.rt_n }),
      // What does not help, or has not been tried, is not offered.
      finding('routes.other', 'rt_n', { fix: fixes.rt_n }),
    ]
    survey.offers = new Map([
      ['routes.name rt_a', [fixes.rt_a]],
      ['routes.name rt_n', [fixes.rt_n]],
      ['routes.other rt_n', []],
    ])
    const asked = vi.spyOn(survey, 'mendable').mockResolvedValue([fixes.rt_a, fixes.rt_n])
    const { host, button, end } = await drawer()
    const rows = () => [...host.querySelectorAll('tr')]
    const names = () => Object.values(levels.doc.routes).map((r) => r.name)
    expect(rows().map((r) => r.querySelectorAll('button').length)).toEqual([2, 2, 0])
    expect(rows()[0].textContent).toContain('1 blocker')
    rows()[2].click()
    expect(sheet.selected).toEqual(['rt_n'])
    button('all 2').click()
    await vi.waitFor(() => expect(names()).toEqual(['Quay beat', 'Quay net']))
    expect(asked.mock.calls[0][0].map((f) => f.subjects)).toEqual([['rt_a'], ['rt_n']])
    levels.undo()
    expect(names()).toEqual(['Beat', 'Net'])
    button('Mend').click()
    await vi.waitFor(() => expect(names()).toEqual(['Quay beat', 'Net']))
    end()
  })

  it('takes no way out that would not help any more, and says so', async () => {
    const fix = rename('rt_a', 'Quay beat')
    survey.findings = [finding('routes.name', 'rt_a', { fix })]
    survey.offers = new Map([['routes.name rt_a', [fix]]])
    vi.spyOn(survey, 'stillHelps').mockResolvedValue(false)
    const { button, end } = await drawer()
    button('Mend').click()
    await vi.waitFor(() => expect(toasts.at(-1)?.text).toContain('would not help any more'))
    expect(levels.doc.routes.rt_a.name).toBe('Beat')
    end()
  })

  it('lists what was waived with its reason, and takes it back', async () => {
    levels.level = readLevel({
      ...level(),
      waivers: { wv_a: { check: 'routes.name', subjects: ['rt_a'], reason: 'the player walks it' } },
    })
    const { tabs, title, show, host, button, end } = await drawer()
    await show('Waived 1')
    expect(title()).toBe('Waived')
    expect(host.textContent).toContain('Beat: the player walks it')
    button('Take back').click()
    await nextTick()
    expect(levels.doc.waivers).toEqual({})
    expect(tabs()).toEqual(['Findings 0', 'Changes'])
    end()
  })

  it('lists changes from the newest, which can be undone, and folds', async () => {
    const { show, host, button, end } = await drawer()
    await show('Changes')
    expect(host.textContent).toContain('Nothing has been changed')
    levels.perform(setThings, called('rt_a', 'First'))
    levels.perform(setThings, called('rt_a', 'Second'))
    await nextTick()
    const items = [...host.querySelectorAll('li')].map((e) => e.textContent)
    expect(items).toHaveLength(2)
    expect(items[0]).toContain('Second')
    button('Undo').click()
    await nextTick()
    expect(levels.doc.routes.rt_a.name).toBe('First')
    expect(host.querySelectorAll('li')).toHaveLength(1)
    host.querySelector<HTMLElement>('[aria-expanded]')!.click()
    await nextTick()
    expect(host.querySelector('ol')).toBeNull()
    end()
  })
})
