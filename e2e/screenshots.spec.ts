import { expect, test } from '@playwright/test'
import { at, card, click, drag, drawPatrol, newLevel, openLevel, register, stage } from './sheet'

const shot = (name: string) => ({ path: `docs/screenshots/${name}.png` })

test('pictures of the main views, from the demo levels', async ({ page }) => {
  test.setTimeout(180_000)
  await page.goto('/')
  await expect(page.getByTestId('level')).toHaveCount(2)
  await page.waitForTimeout(300)
  await page.screenshot(shot('shelf'))

  await openLevel(page, 'Lanternquay by night')
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
  await page.keyboard.press('1')
  await register(page, 'Ground')
    .getByRole('option', { name: /Net loft/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('ground'))

  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  await page.keyboard.press('p')
  await page.mouse.click(310, 300)
  await page.mouse.move(600, 400)
  await page.mouse.click(742, 556)
  await page.waitForTimeout(500)
  await page.screenshot(shot('reach'))

  await page.keyboard.press('Escape')
  await page.keyboard.press('c')
  await page.getByRole('tab', { name: /Profiles/ }).click()
  await register(page, 'Reach')
    .getByRole('option', { name: /Lamplighter/ })
    .click()
  await expect(page.getByText('drops down')).toBeVisible()
  await page.waitForTimeout(2500)
  await page.screenshot(shot('profile'))

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
    .getByRole('option', { name: /Quay round/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('routes'))

  await page.keyboard.press('4')
  await register(page, 'Cast')
    .getByRole('option', { name: /Gatehouse/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('cast'))

  await page.getByRole('button', { name: 'Night' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('5')
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  await expect(page.getByTestId('hash')).toBeVisible()
  await page.getByRole('slider').fill('70')
  await page.keyboard.press('k')
  await register(page, 'On the ground')
    .getByRole('option', { name: /Gatehouse 1/ })
    .click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('rehearse-night'))
  await page.getByRole('button', { name: 'Day' }).click()

  await openLevel(page, 'Rough draft')
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/blockers/)
  await page.getByRole('button', { name: 'Legend' }).click()
  await page.waitForTimeout(400)
  await page.screenshot(shot('findings'))

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
  await page.mouse.move(at(80, 40).x, at(80, 40).y, { steps: 5 })
  await expect(card(page)).toBeVisible()
  await page.waitForTimeout(500)
  await page.screenshot(shot('drawing'))
})
