import { test } from '@playwright/test'
import { openLevel, register, drawer } from './sheet'
test('look', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  const t0 = Date.now(); await page.screenshot({ path: '/tmp/look0.png' })
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  await register(page, 'On the ground').getByRole('option', { name: /Gatehouse 1/ }).filter({ hasText: 'walking' }).waitFor()
  console.log('walking after', Date.now() - t0)
  await page.waitForTimeout(4000)
  await register(page, 'On the ground').getByRole('option', { name: /Gatehouse 1/ }).click()
  await page.waitForTimeout(500)
  await page.screenshot({ path: '/tmp/look1.png' })
  console.log(await drawer(page).innerText())
})
