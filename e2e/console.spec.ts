import { expect, test } from '@playwright/test'
import { openLevel, stage } from './sheet'

test('nothing is said in the console from the first load on, on any screen', async ({ page }) => {
  const said: string[] = []
  page.on('console', (message) => {
    if (['error', 'warning'].includes(message.type())) said.push(`${message.type()}: ${message.text()}`)
  })
  page.on('pageerror', (error) => said.push(String(error)))
  await page.addInitScript(() => {
    document.addEventListener('securitypolicyviolation', (event) =>
      console.error(`policy: ${event.violatedDirective} ${event.blockedURI}`),
    )
  })
  await page.goto('/')
  await expect(page.getByTestId('level').first()).toBeVisible()
  await openLevel(page, 'Lanternquay by night')
  for (const name of ['Ground', 'Reach', 'Routes', 'Cast', 'Rehearse', 'Sign-off']) {
    await stage(page, name).click()
    await page.waitForTimeout(300)
  }
  await page.goto('/levels/lv_nothere/routes')
  await expect(page.getByText('This level cannot be opened')).toBeVisible()
  expect(said.filter((s) => !/status of 404/.test(s))).toEqual([])
})
