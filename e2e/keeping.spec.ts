import { expect, test } from '@playwright/test'
import { allKept, card, click, drawPatrol, newLevel, register, stage } from './sheet'

test('edits made without a connection survive the tab and are kept later', async ({ page, context }) => {
  await newLevel(page)
  const { url } = { url: page.url() }
  await context.setOffline(true)
  await drawPatrol(page, [
    [20, 20],
    [60, 20],
    [60, 60],
  ])
  await expect(page.getByTestId('kept')).toContainText('no connection')
  await page.close()
  await context.setOffline(false)
  const again = await context.newPage()
  await again.goto(url)
  await expect(again.getByText('Changes that had not been kept yet are back.')).toBeVisible()
  await expect(register(again, 'Routes')).toContainText('Patrol 1')
  await allKept(again)
  const elsewhere = await (
    await context.request.get(url.replace('/levels/', '/api/levels/').replace(/\/\w+$/, ''))
  ).json()
  expect(Object.keys(elsewhere.waypoints)).toHaveLength(3)
})

test('a second tab takes in what the first changed', async ({ page, context }) => {
  await newLevel(page)
  const second = await context.newPage()
  await second.goto(page.url())
  await expect(stage(second, 'Routes')).toBeVisible()
  await drawPatrol(page, [
    [20, 20],
    [60, 20],
  ])
  await expect(register(second, 'Routes')).toContainText('Patrol 1')
})

test('changes to different things by two people are joined', async ({ page, browser }) => {
  await newLevel(page)
  await drawPatrol(page, [
    [20, 20],
    [60, 20],
  ])
  await allKept(page)
  const other = await (await browser.newContext()).newPage()
  await other.goto(page.url())
  await expect(register(other, 'Routes')).toContainText('Patrol 1')
  await other.keyboard.press('4')
  await other.keyboard.press('s')
  await click(other, 30, 60)
  await allKept(other)
  // This page does not know of the spawner yet; its own change goes on top of it.
  await register(page, 'Routes').getByRole('option').first().click()
  await card(page).getByRole('button', { name: 'Reverse' }).click()
  await expect(page.getByText('Changes made elsewhere were taken in.')).toBeVisible()
  await stage(page, 'Cast').click()
  await expect(register(page, 'Cast')).toContainText('Spawner 1')
  await allKept(page)
})

for (const [choice, expected] of [
  ['Put my changes on top of theirs', 'Mine'],
  ['Take theirs and let mine go', 'Theirs'],
] as const) {
  test(`a conflict is told and not overwritten: ${choice.toLowerCase()}`, async ({ page, browser }) => {
    await newLevel(page)
    const other = await (await browser.newContext()).newPage()
    await other.goto(page.url())
    await other.getByRole('textbox', { name: 'Name of the level' }).fill('Theirs')
    await other.keyboard.press('Enter')
    await allKept(other)
    await page.getByRole('textbox', { name: 'Name of the level' }).fill('Mine')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('dialog')).toContainText('changed elsewhere too')
    await page.getByRole('button', { name: choice }).click()
    await expect(page.getByRole('textbox', { name: 'Name of the level' })).toHaveValue(expected)
    await allKept(page)
    await other.reload()
    await expect(other.getByRole('textbox', { name: 'Name of the level' })).toHaveValue(expected)
  })
}
