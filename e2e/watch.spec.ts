import { expect, test } from '@playwright/test'
import { card, drawer, openLevel, patrolled, register, stage } from './sheet'

const watch = (page: Parameters<typeof register>[0]) => page.getByRole('group', { name: 'Watch' })

test('a rehearsal is watched: from event to event, in a loop, with senses, wants, heat and straying, and through somebody’s eyes', async ({
  page,
}) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await page.keyboard.press('r')
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  await drawer(page).getByRole('button', { name: 'Pause' }).click()
  const slider = drawer(page).getByLabel('Time in the rehearsal')
  const clock = page.getByTestId('clock')
  await slider.fill('20')
  await register(page, 'On the ground')
    .getByRole('row', { name: /Gatehouse 1/ })
    .click()
  // The next event of the chosen one, and the one before it, are moments of its own.
  await drawer(page).getByRole('button', { name: 'Next event' }).click()
  const next = await clock.textContent()
  expect(next).not.toContain('0:20 of')
  await drawer(page).getByRole('button', { name: 'Next event' }).click()
  expect(await clock.textContent()).not.toBe(next)
  await drawer(page).getByRole('button', { name: 'Last event' }).click()
  await expect(clock).toHaveText(next!)
  for (const name of ['All senses', 'Wants', 'Heat', 'Straying']) await watch(page).getByLabel(name).check()
  await slider.fill('60')
  await drawer(page).getByRole('button', { name: 'Loop' }).click()
  for (let k = 0; k < 5; k++) await drawer(page).getByRole('button', { name: 'Faster' }).click()
  await drawer(page).getByRole('button', { name: 'Run', exact: true }).click()
  // Ten seconds over and over at 32 times: it never comes out of them.
  await page.waitForTimeout(1500)
  await expect(clock).toContainText(/(0:5[5-9]|1:0[0-5]) of/)
  await drawer(page).getByRole('button', { name: 'Pause' }).click()
  await page.keyboard.press('o')
  await page.getByRole('button', { name: 'Through its eyes' }).click()
  await page.getByRole('button', { name: 'Back to the map' }).click()
  await expect(watch(page)).toBeVisible()
})

test('what is too much is priced before it begins, and can be ended', async ({ page }) => {
  await patrolled(page)
  await card(page).getByLabel('how many').fill('5000')
  await page.keyboard.press('Enter')
  await stage(page, 'Rehearse').click()
  // So long that it is still being worked out when it is ended, however slow the hand.
  await register(page, 'On the ground').getByLabel('lasts, s').fill('7200')
  await register(page, 'On the ground').getByLabel('lasts, s').press('Enter')
  await expect(page.getByTestId('price')).toContainText(/5,000 agents take about .* and [\d,]+ MB\. It can be ended/)
  await page.keyboard.press('r')
  await expect(page.getByTestId('clock')).toContainText('rehearsed to')
  await register(page, 'On the ground').getByRole('button', { name: 'End here' }).click()
  await expect(page.getByTestId('clock')).not.toContainText('rehearsed to')
  // The tab is as usable as ever.
  await page.keyboard.press('3')
  await expect(register(page, 'Routes')).toContainText('Patrol')
})

test('a level that is edited into nothing while it runs leaves nobody, and says so', async ({ page }) => {
  await patrolled(page)
  await page.keyboard.press('Escape')
  await page.keyboard.press('5')
  await page.keyboard.press('r')
  await expect(register(page, 'On the ground').getByRole('row').first()).toContainText('leg 1 to 2')
  // First the route goes from under its feet, then the spawner it came from.
  await page.keyboard.press('3')
  await register(page, 'Routes')
    .getByRole('row', { name: /^Patrol 1/ })
    .click()
  await page.keyboard.press('Delete')
  await page.keyboard.press('5')
  await expect(register(page, 'On the ground').getByRole('row').first()).not.toContainText('leg 1 to 2')
  await page.keyboard.press('4')
  await register(page, 'Cast').getByRole('row').first().click()
  await page.keyboard.press('Delete')
  await page.keyboard.press('5')
  await expect(register(page, 'On the ground')).toContainText('has left')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('r')
  await expect(register(page, 'On the ground').getByRole('row').first()).toContainText('leg 1 to 2')
})
