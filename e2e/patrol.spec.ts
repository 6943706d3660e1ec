import { expect, test } from '@playwright/test'
import { allKept, at, card, click, drag, drawer, drawPatrol, newLevel, register, stage } from './sheet'

test('draw a patrol on an empty level, place a spawner, rehearse, read the verdict, and find it all again', async ({
  page,
}) => {
  await newLevel(page)
  await expect(card(page)).toContainText('Draw the first route')
  const over = await at(page, 30, 20)
  await page.mouse.move(over.x, over.y)
  await expect(page.getByLabel('Place under the pointer')).toContainText('x 30.0 y 20.0')

  await page.keyboard.press('3')
  await page.keyboard.press('d')
  await click(page, 20, 20)
  await click(page, 50, 20)
  await click(page, 50, 50)
  await click(page, 20, 50)
  // A second click on the first stop closes the round.
  await click(page, 20, 20)
  await expect(card(page).getByRole('radio', { name: 'Round' })).toBeChecked()
  await expect(card(page)).toContainText('120 m')
  await card(page).getByRole('textbox', { name: 'Name' }).fill('Square round')
  await page.keyboard.press('Enter')
  await expect(register(page, 'Routes')).toContainText('Square round')

  await card(page).getByRole('listitem').nth(1).click()
  await card(page).getByLabel('pauses at least, s').fill('1 + 1')
  await page.keyboard.press('Enter')
  await expect(card(page).getByLabel('at most, s')).toHaveValue('2')

  await stage(page, 'Cast').click()
  await page.keyboard.press('s')
  await drag(page, [16, 16], [22, 16])
  await card(page).getByLabel('follows').selectOption({ label: 'Square round' })
  await expect(card(page)).toContainText('Follow Square round, round and round.')
  await expect(stage(page, 'Cast')).toHaveAccessibleName('Cast, nothing wrong')

  await stage(page, 'Rehearse').click()
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  const agent = register(page, 'On the ground').getByRole('row', { name: /Spawner 1/ })
  await agent.click()
  await expect(card(page).getByTestId('verdict')).toBeVisible()
  await page.keyboard.press('k')
  await drawer(page).getByRole('slider').fill('15')
  await expect(agent).toContainText('leg 1 to 2')
  await expect(card(page)).toContainText(/speed\s*1\.\d\d m\/s/)
  await expect(card(page).getByTestId('verdict')).toHaveText('follows')
  await allKept(page)

  await page.reload()
  await stage(page, 'Routes').click()
  await register(page, 'Routes')
    .getByRole('row', { name: /Square round/ })
    .click()
  await expect(card(page).getByRole('listitem')).toHaveCount(4)
  await expect(card(page).getByRole('listitem').nth(1)).toContainText('2 s')
  await expect(card(page)).toContainText('Followed by Spawner 1')
})

test('break a route with a solid, and mend it with the fix', async ({ page }) => {
  await newLevel(page)
  await drawPatrol(page, [
    [20, 40],
    [60, 40],
    [60, 60],
  ])
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [54, 36], [66, 46])
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/1 blocker/)
  await expect(drawer(page)).toContainText('Warden cannot stand at stop 2 of Patrol 1: inside Block 1.')
  await drawer(page).getByRole('button', { name: 'Mend' }).first().click()
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
  await page.keyboard.press('Control+z')
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/1 blocker/)
})

test('a leg says before it is placed whether it can be walked', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [40, 0], [44, 80])
  await page.keyboard.press('3')
  await page.keyboard.press('d')
  await click(page, 20, 40)
  await click(page, 30, 50)
  await click(page, 70, 40)
  await page.keyboard.press('Enter')
  await expect(drawer(page)).toContainText('cannot walk leg 2 to 3 of Patrol 1: nothing joins the two sides')
  // Taking the wall away mends it; undo brings the fault back.
  await page.keyboard.press('1')
  await register(page, 'Ground')
    .getByRole('row', { name: /Block 1/ })
    .click()
  await card(page).getByRole('button', { name: 'Delete' }).click()
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
})

test('stops are inserted, dragged, reordered, reversed and deleted, and every step undone', async ({ page }) => {
  await newLevel(page)
  await drawPatrol(page, [
    [20, 20],
    [60, 20],
    [60, 60],
  ])
  const stops = card(page).getByRole('listitem')
  await expect(stops).toHaveCount(3)
  await page.keyboard.press('i')
  await click(page, 40, 20)
  await page.keyboard.press('c')
  await expect(card(page)).toContainText('stop 2 of 4', { ignoreCase: true })
  await drag(page, [40, 20], [40, 30])
  await expect(card(page).getByLabel('north, m')).toHaveValue('30')
  await card(page)
    .getByRole('button', { name: /of Patrol 1/ })
    .click()
  await stops.nth(0).focus()
  await page.keyboard.press('Alt+ArrowDown')
  await card(page).getByRole('button', { name: 'Reverse' }).click()
  await expect(drawer(page)).toBeVisible()
  await drawer(page).getByRole('tab', { name: 'Changes' }).click()
  await expect(drawer(page).getByRole('listitem').first()).toContainText('Reverse Patrol 1')
  for (let k = 0; k < 4; k++) await page.keyboard.press('Control+z')
  await expect(stops).toHaveCount(3)
  await page.keyboard.press('Control+Shift+z')
  await expect(stops).toHaveCount(4)
  await stops.nth(1).click()
  await page.keyboard.press('Delete')
  await register(page, 'Routes').getByRole('row').first().click()
  await expect(stops).toHaveCount(3)
})

test('a route dropped on a spawner is followed', async ({ page }) => {
  await newLevel(page)
  await drawPatrol(page, [
    [20, 20],
    [60, 20],
  ])
  await stage(page, 'Cast').click()
  await expect(stage(page, 'Cast')).toHaveAccessibleName(/1 other/)
  await page.keyboard.press('s')
  await click(page, 40, 60)
  // The tool is put away, then what was placed is let go of.
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  const spot = await at(page, 40, 60)
  await page
    .getByText('Patrol 1', { exact: true })
    .last()
    .dragTo(page.getByTestId('map'), { targetPosition: { x: spot.x, y: spot.y - 56 } })
  await expect(register(page, 'Cast')).toContainText('1 × Warden · Patrol 1')
  await expect(stage(page, 'Cast')).toHaveAccessibleName('Cast, nothing wrong')
})
