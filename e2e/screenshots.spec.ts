import { expect, test } from '@playwright/test'
import { at, card, click, drag, drawer, drawPatrol, newLevel, openLevel, register, stage } from './sheet'

const shot = (name: string) => ({ path: `docs/screenshots/${name}.png` })

test('pictures of the main views, from the demo levels', async ({ page }) => {
  test.setTimeout(180_000)
  await page.goto('/')
  await expect(page.getByTestId('level')).toHaveCount(3)
  await page.waitForTimeout(300)
  await page.screenshot(shot('shelf'))

  await openLevel(page, 'Lanternquay by night')
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
  await page.keyboard.press('1')
  await register(page, 'Ground')
    .getByRole('row', { name: /Net loft/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('ground'))

  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  await page.keyboard.press('p')
  await click(page, 12.1, 120.2)
  await click(page, 149.9, 38.6)
  await page.waitForTimeout(500)
  await page.screenshot(shot('reach'))

  await page.keyboard.press('Escape')
  await page.keyboard.press('c')
  await page.getByRole('tab', { name: /Profiles/ }).click()
  await register(page, 'Reach')
    .getByRole('row', { name: /Lamplighter/ })
    .click()
  await expect(page.getByText('drops down')).toBeVisible()
  await page.waitForTimeout(2500)

  await page.keyboard.press('Escape')
  await page.keyboard.press('o')
  await expect(page.getByTestId('overlook')).toBeVisible()
  await page.waitForTimeout(3000)
  await page.screenshot(shot('overlook'))
  await page.keyboard.press('o')

  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.keyboard.press('3')
  await register(page, 'Routes')
    .getByRole('row', { name: /Quay round/ })
    .click()
  await card(page).getByRole('button', { name: 'Side view' }).click()
  await expect(page.getByTestId('elevation').locator('circle').first()).toBeVisible()
  await page.waitForTimeout(400)
  await page.screenshot(shot('routes'))
  await drawer(page)
    .getByRole('tab', { name: /Findings/ })
    .click()

  await page.keyboard.press('4')
  await page.getByRole('tab', { name: /^Briefs/ }).click()
  await register(page, 'Cast')
    .getByRole('row', { name: /^Sentry/ })
    .click()
  await card(page)
    .getByRole('button', { name: /^Chase them/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('cast'))
  await page.keyboard.press('Escape')

  await page.getByRole('button', { name: 'Night' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('5')
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  await expect(page.getByTestId('hash')).toBeVisible()
  await page.getByRole('slider').fill('70')
  await page.keyboard.press('k')
  await register(page, 'On the ground')
    .getByRole('row', { name: /Gatehouse 1/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('rehearse-night'))
  await page.getByRole('button', { name: 'Day' }).click()
  await page.getByRole('slider').fill('52')
  await register(page, 'On the ground')
    .getByRole('row', { name: /Loft watch/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('senses'))
  await page.keyboard.press('o')
  await page.getByRole('button', { name: 'Through its eyes' }).click()
  await page.waitForTimeout(1200)
  await page.keyboard.press('o')

  await openLevel(page, 'Rough draft')
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/blockers/)
  await page.getByRole('button', { name: 'Legend' }).click()
  await expect(page.getByText('Trying what helps …')).toHaveCount(0, { timeout: 60_000 })
  await page.waitForTimeout(400)
  await page.screenshot(shot('findings'))
  await page.getByRole('button', { name: 'Legend' }).click()
  await page.keyboard.press('3')
  await register(page, 'Routes')
    .getByRole('row', { name: /Yard net/ })
    .press('Enter')
  await register(page, 'Routes')
    .getByRole('row', { name: /Yard net/ })
    .click()
  await page.waitForTimeout(600)
  await page.screenshot(shot('network'))

  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [40, 0], [44, 80])
  await drawPatrol(page, [])
  await page.keyboard.press('d')
  for (const [x, y] of [
    [16, 20],
    [30, 34],
    [18, 56],
  ] as const) {
    await click(page, x, y)
  }
  const near = await at(page, 80, 40)
  await page.mouse.move(near.x, near.y, { steps: 5 })
  await expect(card(page)).toBeVisible()
  await page.waitForTimeout(500)

  await newLevel(page)
  await page.keyboard.press('3')
  await page.keyboard.press('d')
  const draw = async (kind: string, places: readonly (readonly [number, number])[]) => {
    await page.keyboard.press('d')
    await page.getByLabel(kind, { exact: true }).check()
    for (const [x, y] of places) await click(page, x, y)
  }
  const round = [
    [30, 50],
    [60, 48],
    [90, 54],
    [96, 68],
    [62, 62],
    [34, 70],
  ] as const
  await draw('Circuit', [...round, round[0]])
  await draw('Mission', [
    [14, 14],
    [40, 20],
    [70, 14],
    [104, 22],
  ])
  await page.keyboard.press('Enter')
  for (const side of [0, 3.5]) {
    const lane = [
      [6, 32 + side],
      [40, 36 + side],
      [74, 31 + side],
      [114, 35 + side],
    ] as const
    await draw('Lane', side ? [...lane].reverse() : lane)
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
  }
  await page.keyboard.press('c')
  await page.waitForTimeout(400)
  await page.screenshot(shot('lanes'))
})

test('pictures of what is found by rehearsing', async ({ page }) => {
  test.setTimeout(300_000)
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await page.keyboard.press('r')
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  await drawer(page).getByRole('button', { name: 'Pause' }).click()
  await drawer(page).getByLabel('Time in the rehearsal').fill('62')
  await register(page, 'On the ground')
    .getByRole('row', { name: /Office sentry/ })
    .click()
  await expect(card(page).getByTestId('why-sentence')).toBeVisible()
  await page.waitForTimeout(1500)
  await page.screenshot(shot('why'))

  await drawer(page).getByLabel('Time in the rehearsal').fill('150')
  await drawer(page).getByRole('tab', { name: 'String-line' }).click()
  await drawer(page).getByLabel('Route of the string-line').selectOption({ label: 'Quay round' })
  await expect(drawer(page).getByRole('img')).toBeVisible({ timeout: 30_000 })
  await page.waitForTimeout(1200)
  await page.screenshot(shot('string-line'))

  await page.getByRole('tab', { name: /Measured/ }).click()
  await page.getByRole('tab', { name: /Sneak lines/ }).click()
  await page.getByRole('row', { name: /Past the warehouses/ }).click()
  await expect(card(page).getByTestId('safe-way')).toBeVisible({ timeout: 30_000 })
  await drawer(page).getByRole('tab', { name: 'Windows' }).click()
  await page.waitForTimeout(1200)
  await page.screenshot(shot('windows'))

  await page.keyboard.press('Escape')
  await drawer(page).getByRole('tab', { name: 'Seeds' }).click()
  await drawer(page).getByLabel('seeds', { exact: true }).fill('12')
  await page.keyboard.press('Enter')
  await drawer(page)
    .getByRole('button', { name: /Rehearse with 12 seeds/ })
    .click()
  await expect(page.getByTestId('seeds-state')).toContainText('12 of 12 done', { timeout: 150_000 })
  await drawer(page).getByRole('button', { name: 'Past the warehouses: slack' }).click()
  await page.waitForTimeout(800)
  await page.screenshot(shot('seeds'))

  await drawer(page).getByRole('tab', { name: 'Compare' }).click()
  await drawer(page).getByLabel('keep this rehearsal as').fill('First night')
  await drawer(page).getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByTestId('kept-list')).toContainText('First night', { timeout: 20_000 })
  await page.getByRole('tab', { name: /^Agents/ }).click()
  await page.getByRole('button', { name: 'Other luck' }).click()
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  await page.getByTestId('kept-list').getByRole('button', { name: 'Compare' }).click()
  await expect(page.getByTestId('comparison')).toBeVisible({ timeout: 60_000 })
  await page
    .getByRole('status')
    .filter({ hasText: 'is kept' })
    .waitFor({ state: 'hidden', timeout: 15_000 })
    .catch(() => {})
  await page.screenshot(shot('compare'))
})

test('pictures of traffic, from Kettle Cross', async ({ page }) => {
  test.setTimeout(300_000)
  await openLevel(page, 'Kettle Cross')
  await page.keyboard.press('3')
  await page.getByRole('tab', { name: /^Junctions/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Lamp Ring junction/ }).click() // prettier-ignore
  await register(page, 'Routes').getByRole('row', { name: /Lamp Ring junction/ }).press('Enter') // prettier-ignore
  await card(page).getByTestId('watches').locator('summary').click()
  await card(page).getByTestId('watches').getByRole('listitem').first().hover()
  await page.waitForTimeout(1500)
  await page.screenshot(shot('junction'))
  await register(page, 'Routes').getByRole('row', { name: /Kettle Cross/ }).click() // prettier-ignore
  await register(page, 'Routes').getByRole('row', { name: /Kettle Cross/ }).press('Enter') // prettier-ignore
  await card(page).getByLabel('Time in the cycle').scrollIntoViewIfNeeded()
  await card(page).getByLabel('Time in the cycle').fill('12')
  await page.waitForTimeout(1500)
  await page.screenshot(shot('signals'))
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Fit the level' }).click()
  await page.keyboard.press('5')
  await page.locator('button.btn-main', { hasText: 'Rehearse' }).click()
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 120_000 })
  await page.getByRole('tab', { name: /Measured/ }).click()
  await page.getByRole('row', { name: /Kettle Street/ }).click()
  await card(page).getByRole('button', { name: 'Show its charts' }).click()
  await expect(drawer(page)).toContainText(/On the ring · \d/, { timeout: 60_000 })
  await page.waitForTimeout(2500)
  await page.screenshot(shot('counters'))
})
