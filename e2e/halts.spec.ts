import { expect, test } from '@playwright/test'
import { writeLevelFile } from '@tidytrail/core/level'
import { settled, signalledStreet, walkedCrossroads, withStreams } from '@tidytrail/core/testing'
import { expectAccessible } from './axe'
import { card, drawer, drawRoad, newLevel, openLevel, register, stage } from './sheet'

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

test('signals along a street are set so that many meet green all along, one way or both', async ({ page }) => {
  await page.goto('/')
  const street = settled(signalledStreet([120, 210, 300]))
  const routes = Object.fromEntries(Object.entries(street.routes).map(([id, r]) => [id, { ...r, atEnd: 'leave' as const }])) // prettier-ignore
  const file = writeLevelFile({ ...withStreams({ ...street, routes }, { perH: 300 }), name: 'Green street' }, new Map())
  await page.getByTestId('import').setInputFiles({ name: 'street.json', mimeType: 'application/json', buffer: Buffer.from(file) }) // prettier-ignore
  await expect(page.getByRole('link', { name: 'Green street', exact: true })).toBeVisible()
  await openLevel(page, 'Green street')
  await page.keyboard.press('3')
  await page.getByRole('tab', { name: /^Routes/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /m0 ahead 1/ }).click() // prettier-ignore
  await drawer(page).getByRole('tab', { name: 'Green wave' }).click()
  const told = drawer(page).getByTestId('wave-told')
  await expect(told).toHaveText(/^Green all along:/)
  const before = await told.textContent()
  await drawer(page).getByRole('button', { name: 'Both ways' }).click()
  await expect(told).not.toHaveText(before!)
  await expectAccessible(page, 'a green wave')
  await drawer(page).getByRole('button', { name: 'One way' }).click()
  await expect(told).toHaveText(/on the way up/)
  // Those who drive there are drawn over it once they do.
  await expect(drawer(page).getByTestId('wave-thread')).toHaveCount(0)
  await page.keyboard.press('Escape')
  await page.keyboard.press('5')
  await page.locator('button.btn-main', { hasText: 'Rehearse' }).click()
  await page.waitForTimeout(500)
  await page.keyboard.press('3')
  await register(page, 'Routes').getByRole('row', { name: /m0 ahead 1/ }).click() // prettier-ignore
  await drawer(page).getByRole('tab', { name: 'Green wave' }).click()
  await expect.poll(() => drawer(page).getByTestId('wave-thread').count()).toBeGreaterThan(5)
  await expectAccessible(page, 'a green wave with those who drove along it')
})

test('those who walk over a crossing have green in a stage, too little of it is told, and a plan gives them enough', async ({
  page,
}) => {
  await page.goto('/')
  const file = writeLevelFile({ ...walkedCrossroads(), name: 'Walked crossroads' }, new Map())
  await page.getByTestId('import').setInputFiles({ name: 'walked.json', mimeType: 'application/json', buffer: Buffer.from(file) }) // prettier-ignore
  await expect(page.getByRole('link', { name: 'Walked crossroads', exact: true })).toBeVisible()
  await openLevel(page, 'Walked crossroads')
  await page.keyboard.press('3')
  await page.getByRole('tab', { name: /^Junctions/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Junction 1/ }).click() // prettier-ignore
  const letter = card(page).getByRole('button', { name: /^Way a, .*crossing.*on foot$/ })
  await expect(letter.nth(0)).toHaveAttribute('aria-pressed', 'false')
  await expect(letter.nth(1)).toHaveAttribute('aria-pressed', 'true')
  await expectAccessible(page, 'a junction with crossings')
  // Green together with those who go straight on over them cannot be.
  await letter.nth(0).click()
  await expect(drawer(page)).toContainText(/those who walk along .* have green together with/)
  await page.getByRole('button', { name: /^Take green from .* there$/ }).click()
  await expect(letter.nth(0)).toHaveAttribute('aria-pressed', 'false')
  const green = card(page).getByLabel('green, s').nth(1)
  for (const field of ['green', 'amber', 'all red']) {
    const input = card(page).getByLabel(`${field}, s`, { exact: true }).nth(1)
    await input.fill(field === 'green' ? '2' : '0')
    await input.press('Enter')
  }
  await expect(drawer(page)).toContainText(/need 6\.4 s to get over, and have 2\.0 s/)
  await card(page).getByRole('button', { name: 'Suggest a plan' }).click()
  await expect(drawer(page)).not.toContainText(/to get over/)
  await expect(green).not.toHaveValue('2')
})
