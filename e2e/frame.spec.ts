import { expect, test, type Page } from '@playwright/test'
import { expectAccessible } from './axe'
import { card, drawer, openLevel, register } from './sheet'

/** Controls that lie outside the window, wholly or in part, or that something else covers. */
const outOfReach = (page: Page) =>
  page.evaluate(() =>
    Array.from(document.querySelectorAll<HTMLElement>('header button, header a, main button, main input, main select'))
      .filter((el) => {
        const box = el.getBoundingClientRect()
        // What a list holds is scrolled to.
        const scrolled = el.closest('[class*=overflow-y-auto]')
        if (box.width === 0 || scrolled || el.closest('.sr-only')) return false
        if (box.left < 0 || box.top < 0 || box.right > innerWidth || box.bottom > innerHeight) return true
        const top = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2)
        return !top || !(el.contains(top) || top.contains(el))
      })
      .map((el) => el.getAttribute('aria-label') ?? el.textContent!.trim()),
  )
const more = async (page: Page, name: string) => {
  await page.getByRole('banner').getByRole('button', { name: 'More' }).click()
  await page.getByRole('menuitem', { name }).click()
}

test('in a narrow window what does not fit is in a menu, and nothing lies over something else', async ({ page }) => {
  await page.setViewportSize({ width: 1000, height: 650 })
  await openLevel(page, 'Lanternquay by night')
  for (const key of ['1', '2', '3', '4', '5', '6']) {
    await page.keyboard.press(key)
    await page.waitForTimeout(200)
    expect(await outOfReach(page), `stage ${key}`).toEqual([])
  }
  // What is only looked up lies over the map, and does not move it.
  const view = () => page.getByTestId('map').getAttribute('data-view')
  const before = await view()
  await more(page, 'Legend')
  await expect(page.getByRole('region', { name: 'Legend' })).toBeInViewport({ ratio: 1 })
  expect(await view()).toBe(before)
  await more(page, 'Legend')
  await more(page, 'Night')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night')
  await more(page, 'Keys')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await more(page, 'Find')
  await page.keyboard.type('Net loft')
  await page.keyboard.press('Enter')
  await expect(card(page).getByLabel('Name')).toHaveValue('Net loft')
})

test('at twice the size of everything the map has the window, and one panel at a time comes up over it', async ({
  page,
}) => {
  await page.setViewportSize({ width: 640, height: 400 })
  await openLevel(page, 'Lanternquay by night')
  const bar = page.getByRole('toolbar', { name: 'Panels' })
  const stages = page.getByRole('navigation', { name: 'Stages' })
  for (const name of ['Ground', 'Reach', 'Routes', 'Cast', 'Rehearse', 'Sign-off']) {
    await stages.getByRole('button').click()
    await stages.getByRole('menuitem', { name }).click()
    expect(await outOfReach(page), name).toEqual([])
  }
  await page.keyboard.press('1')
  await bar.getByRole('button', { name: /^List/ }).click()
  await register(page, 'Ground')
    .getByRole('row', { name: /Net loft/ })
    .click()
  await bar.getByRole('button', { name: 'Card: Net loft' }).click()
  await expect(card(page)).toBeInViewport({ ratio: 1 })
  await expect(register(page, 'Ground')).toBeHidden()
  await expectAccessible(page, 'a card over the map')
  await bar.getByRole('button', { name: /^Findings/ }).click()
  await expect(card(page)).toBeHidden()
  await expect(drawer(page)).toBeInViewport({ ratio: 1 })
  // The drawer stays up; what it shows follows the stage.
  await page.keyboard.press('3')
  await bar.getByRole('button', { name: /^List/ }).click()
  await register(page, 'Routes')
    .getByRole('row', { name: /Quay round/ })
    .click()
  await bar.getByRole('button', { name: 'Card: Quay round' }).click()
  // What is asked for on one panel comes up in its place.
  await card(page).getByRole('button', { name: 'Side view' }).click()
  await expect(page.getByTestId('elevation')).toBeVisible()
  await expect(card(page)).toBeHidden()
  await page.keyboard.press('Escape')
  await page.keyboard.press('5')
  await expect(bar.getByRole('button', { name: 'Run' })).toHaveAttribute('aria-pressed', 'true')
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  await expect(drawer(page).getByRole('button', { name: 'Pause' })).toBeInViewport({ ratio: 1 })
  await expect(drawer(page)).toBeInViewport({ ratio: 1 })
})
