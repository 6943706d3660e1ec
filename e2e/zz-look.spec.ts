import { test } from '@playwright/test'
import { newLevel, drag, card } from './sheet'
test('look', async ({ page }) => {
  page.on('console', (m) => console.log('CONSOLE', m.text()))
  page.on('pageerror', (m) => console.log('PAGEERR', m.message))
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [20, 30], [40, 50])
  await page.waitForTimeout(500)
  await card(page).getByRole('checkbox').first().check()
  await page.waitForTimeout(500)
  await page.keyboard.press('v')
  await page.waitForTimeout(1500)
  await page.screenshot({ path: '/tmp/look1.png' })
})
