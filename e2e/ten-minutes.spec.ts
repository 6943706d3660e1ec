import { expect, test } from '@playwright/test'
import { at, card, click, drag, drawer, newLevel, register, stage } from './sheet'

// The steps of docs/ten-minutes.md as they stand there.
test('the ten minutes of the guide lead from an empty level to a verdict', async ({ page }) => {
  await newLevel(page, 'Ground')
  const yard = card(page).getByRole('button', { name: /^Walled yard/ })
  await yard.click()
  await expect(card(page)).toContainText('Nothing to mend here')
  await page.keyboard.press('Control+z')
  await expect(yard).toBeVisible()
  await page.keyboard.press('Control+Shift+z')
  await expect(register(page, 'Ground')).toContainText('11 solids')

  await page.keyboard.press('2')
  await page.getByRole('toolbar', { name: 'Tools' }).getByRole('button', { name: /Why/ }).click()
  const shed = await at(page, 39, 53)
  await page.mouse.move(shed.x - 3, shed.y)
  await page.mouse.move(shed.x, shed.y)
  await expect(page.getByTestId('why')).toContainText('Long shed')

  await page.keyboard.press('3')
  await page.keyboard.press('d')
  for (const [x, y] of [
    [24, 44],
    [54, 44],
    [54, 62],
    [24, 62],
    [24, 44],
  ] as const)
    await click(page, x, y)
  await expect(card(page).getByRole('radio', { name: 'Round' })).toBeChecked()
  await card(page).getByRole('textbox', { name: 'Name' }).fill('Shed round')
  await page.keyboard.press('Enter')

  await card(page).getByRole('listitem').nth(1).click()
  await card(page).getByLabel('pauses at least, s').fill('4')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')

  await page.keyboard.press('4')
  await page.keyboard.press('s')
  await click(page, 38, 44)
  await expect(card(page)).toContainText('Follow Shed round, round and round.')
  for (const name of ['Ground', 'Reach', 'Routes', 'Cast'])
    await expect(stage(page, name)).toHaveAccessibleName(`${name}, nothing wrong`)
  // The tool first, then the choice.
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')

  await page.keyboard.press('5')
  await page.keyboard.press('k')
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  await drawer(page).getByLabel('Time in the rehearsal').fill('60')
  const one = register(page, 'On the ground').getByRole('row', { name: /Shed round spawner 1/ })
  await one.click()
  await expect(card(page).getByTestId('verdict')).toHaveText('follows')
  await expect(card(page)).toContainText(/as of \d:\d\d, of 4:00/)

  await page.keyboard.press('Escape')
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [51, 41], [57, 46])
  await page.keyboard.press('Escape')
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/1 blocker/)
  await expect(drawer(page)).toContainText('cannot stand at stop 2 of Shed round')
  await drawer(page)
    .getByRole('tab', { name: /^Findings/ })
    .click()
  await drawer(page).getByRole('button', { name: 'Mend' }).first().click()
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')

  await page.keyboard.press('5')
  await register(page, 'On the ground').getByRole('button', { name: 'Again, same luck' }).click()
  await expect(register(page, 'On the ground')).toContainText('Nothing came out differently', { timeout: 60_000 })
})
