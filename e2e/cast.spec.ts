import { expect, test } from '@playwright/test'
import { card, click, drawer, newLevel, openLevel, register, stage } from './sheet'

test('somebody is told to wander in a zone and then to leave, and does', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('4')
  await page.keyboard.press('z')
  for (const [x, y] of [
    [60, 20],
    [100, 20],
    [100, 60],
    [60, 60],
    [60, 20],
  ] as const)
    await click(page, x, y)
  await expect(card(page).getByLabel('Name')).toHaveValue('Zone 1')
  await page.keyboard.press('Escape')
  await page.keyboard.press('s')
  await click(page, 40, 40)
  await expect(card(page)).toContainText('write a brief')
  await card(page).getByRole('button', { name: 'Write a brief' }).click()
  await expect(card(page)).toContainText('Nothing is said yet')
  // A brief that says nothing is found; what is added mends it.
  await expect(card(page)).toContainText('which says nothing')
  await card(page).getByLabel('add a step').selectOption('Wander in a zone')
  await expect(card(page)).toContainText("Wander in its squad's zone")
  await expect(card(page)).toContainText('has no squad with a zone')
  await card(page).getByLabel('zone', { exact: true }).selectOption('Zone 1')
  await card(page).getByLabel('add a step').selectOption('Leave')
  await expect(card(page)).toContainText('Step 2 of Brief of Spawner 1 comes about only should step 1 fail')
  await card(page)
    .getByRole('button', { name: /^Wander in Zone 1/ })
    .click()
  await card(page).getByLabel('for, s', { exact: true }).fill('30')
  await page.keyboard.press('Enter')
  await expect(card(page)).toContainText('standing 2 to 6 s at each place, for 30 s.')
  await expect(card(page)).not.toContainText('comes about only')
  await stage(page, 'Rehearse').click()
  await page.keyboard.press('Escape')
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  await drawer(page).getByLabel('Time in the rehearsal').fill('60')
  const one = register(page, 'On the ground').getByRole('row').first()
  await expect(one).toContainText('has left')
  await one.click()
  await expect(card(page)).toContainText('began step 2 of its brief')
  await expect(card(page)).toContainText('left, as it was told')
})

test('a brief of the demo is read as sentences and told to others', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('4')
  await register(page, 'Cast')
    .getByRole('row', { name: /^Tower watch/ })
    .click()
  await expect(card(page)).toContainText(/Follow .+, there and back|Follow .+, round/)
  await card(page).getByRole('button', { name: 'Open brief' }).click()
  await expect(card(page).getByRole('list', { name: 'Steps' })).toContainText('Follow')
  await expect(card(page).getByRole('heading', { name: 'Told to' })).toBeVisible()
})
