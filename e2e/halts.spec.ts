import { expect, test } from '@playwright/test'
import { expectAccessible } from './axe'
import { card, drawRoad, newLevel, register, stage } from './sheet'

test('a dead end gets a turning circle, and a lane a platform and parking places, all drawn and undone', async ({
  page,
}) => {
  await newLevel(page)
  await drawRoad(page, [
    [15, 40],
    [75, 40],
  ])
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: /^Routes/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Road 1 ahead 1/ }).click() // prettier-ignore
  const end = card(page).getByRole('region', { name: 'Its end' })
  await expect(end).toContainText('It leads on nowhere.')
  await end.getByRole('button', { name: 'Turn round there' }).click()
  await expect(card(page)).toContainText('from Road 1 ahead 1')
  await expect(card(page).getByRole('textbox', { name: 'turns with a radius of' })).not.toHaveValue('')
  await register(page, 'Routes').getByRole('row', { name: /Road 1 ahead 1/ }).click() // prettier-ignore
  await expect(end).toContainText(/Leads on into\s+Road 1 back 1/)
  const halts = card(page).getByRole('region', { name: 'Platforms and parking' })
  await halts.getByRole('button', { name: 'Add parking' }).click()
  await expect(halts.getByRole('group', { name: /parking places on the left/ })).toBeVisible()
  await halts.getByRole('button', { name: 'Add a platform' }).click()
  await expect(halts.getByRole('group', { name: 'Platform, 2' })).toBeVisible()
  await expectAccessible(page, 'a lane with halts')
  if (process.env.LOOK) await page.screenshot({ path: '/tmp/look-halts.png' })
  await halts.getByRole('button', { name: 'Take it away, 1' }).click()
  await expect(halts.getByRole('group', { name: /, \d$/ })).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(halts.getByRole('group', { name: /, \d$/ })).toHaveCount(2)
})

test('a road becomes a track of one lane for both ways, with a passing place in its middle', async ({ page }) => {
  await newLevel(page)
  await drawRoad(page, [
    [3, 30],
    [50, 45],
    [97, 30],
  ])
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: /^Roads/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Road 1/ }).click() // prettier-ignore
  await card(page).getByLabel('one lane for both ways').check()
  await expect(card(page).getByLabel('lanes ahead')).toHaveCount(0)
  await card(page).getByRole('button', { name: 'Add a passing place' }).click()
  await expect(card(page).getByRole('group', { name: 'Passing place 1' })).toBeVisible()
  await expectAccessible(page, 'a track')
  // Its lanes lie over each other, and nothing is wrong with that.
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/Routes, 0 blockers, 2 other/)
  await card(page).getByLabel('one lane for both ways').uncheck()
  await expect(card(page).getByLabel('lanes ahead').first()).toHaveValue('1')
})
