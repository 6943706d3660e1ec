import { expect, test, type Page } from '@playwright/test'
import { expectAccessible } from './axe'
import { allKept, card, click, drag, drawer, newLevel, register, stage } from './sheet'

/** Draws a road through places, from the Routes stage. */
async function drawRoad(page: Page, places: [number, number][]): Promise<void> {
  await page.keyboard.press('Escape')
  await page.keyboard.press('q')
  for (const [x, y] of places) await click(page, x, y)
  await page.keyboard.press('Enter')
}

test('a signalled crossroads is made from nothing: four roads, their joins, a junction, and lights that are scrubbed', async ({
  page,
}) => {
  await newLevel(page)
  for (const arm of [
    [
      [10, 40],
      [48, 40],
    ],
    [
      [110, 40],
      [72, 40],
    ],
    [
      [60, 78],
      [60, 52],
    ],
    [
      [60, 4],
      [60, 28],
    ],
  ] as [number, number][][])
    // prettier-ignore
    await drawRoad(page, arm)
  await expect(card(page)).toContainText('drives on the left')
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: /^Junctions/ }).click()
  await page.getByRole('button', { name: 'Make 12 joins that fit' }).click()
  await expect(page.getByRole('button', { name: 'No join is missing' })).toBeDisabled()
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/1 blocker/)
  await page.getByRole('button', { name: 'Make 1 junction' }).click()
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/0 blockers/)
  await register(page, 'Routes')
    .getByRole('row', { name: /Junction 1/ })
    .click()
  await expect(card(page).getByTestId('settled')).toHaveText('All 28 conflicts are settled.')
  // A cell says what it is, and is changed where it stands: one gives way, stops first, goes first, and is open.
  const table = card(page).getByTestId('pairs')
  const says = await table
    .getByRole('button', { name: / gives way to / })
    .first()
    .getAttribute('aria-label')
  const [who, whom] = says!.split(' gives way to ')
  await table.getByRole('button', { name: says!, exact: true }).click()
  await table.getByRole('button', { name: `${who} stops, and gives way to ${whom}`, exact: true }).click()
  await table.getByRole('button', { name: `${who} goes before ${whom}`, exact: true }).click()
  await expect(card(page).getByTestId('settled')).toHaveText('1 of 28 conflicts are not settled.')
  await expect(drawer(page)).toContainText(/At Junction 1 nothing says whether .* goes first/)
  // With signals the pairs that never have green together are kept apart.
  await card(page).getByLabel('settled by').selectOption('signals')
  await expect(card(page).getByTestId('settled')).toHaveText('All 28 conflicts are settled.')
  await expect(table.getByRole('button', { name: /is kept apart by signals from/ }).first()).toBeVisible()
  const clock = card(page).getByLabel('Time in the cycle')
  await expect(card(page).getByTestId('signal-clock')).toContainText('Stage 1')
  await clock.press('End')
  await expect(card(page).getByTestId('signal-clock')).toContainText('Stage 2')
  await expectAccessible(page, 'a junction with signals')
  await allKept(page)
  // Taking a stage out leaves two approaches without green: that is told, and mended.
  await card(page).getByRole('button', { name: 'Take out Stage 2' }).click()
  await expect(drawer(page)).toContainText(/never has green/)
  await card(page).getByRole('button', { name: 'Suggest a plan' }).click()
  await expect(drawer(page)).not.toContainText(/never has green/)
})

test('a road stays one: its lanes follow it, change over to the other side, and are let go when it is taken apart', async ({
  page,
}) => {
  await newLevel(page)
  await drawRoad(page, [
    [20, 30],
    [60, 30],
    [90, 50],
  ])
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: /^Roads/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Road 1/ }).click() // prettier-ignore
  const lanes = card(page).getByLabel('lanes ahead')
  await lanes.fill('2')
  await lanes.press('Enter')
  await expect(card(page).getByRole('button', { name: 'Road 1 ahead 2' })).toBeVisible()
  await expectAccessible(page, 'a road')
  // A lane of it does not go anywhere by itself.
  await page.getByRole('tab', { name: /^Routes/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Road 1 ahead 1/ }).click() // prettier-ignore
  await drag(page, [20, 31.625], [26, 40])
  await expect(page.getByRole('status').filter({ hasText: 'Road 1 lays this lane' })).toBeVisible()
  await page.getByRole('tab', { name: /^Roads/ }).click()
  await page.getByRole('button', { name: 'Drives on the left: change over' }).click()
  await expect(page.getByRole('button', { name: 'Drives on the right: change over' })).toBeVisible()
  await register(page, 'Routes').getByRole('row', { name: /Road 1/ }).click() // prettier-ignore
  await expect(card(page)).toContainText('drives on the right')
  await card(page).getByRole('button', { name: 'Take apart' }).click()
  await expect(page.getByRole('tab', { name: /^Roads 0/ })).toBeVisible()
  await page.getByRole('tab', { name: /^Routes/ }).click()
  await expect(register(page, 'Routes').getByRole('row', { name: /Road 1/ })).toHaveCount(3)
})
