import { expect, test, type Page } from '@playwright/test'
import { allKept, card, click, drag, drawPatrol, newLevel, openLevel, register, stage } from './sheet'

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
  await register(page, 'Routes').getByRole('row').first().click()
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

/** A block in the middle of a new level, chosen. */
async function chosenBlock(page: Page): Promise<void> {
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [28, 58], [32, 62])
  await allKept(page)
  await page.keyboard.press('Escape')
  await choose(page)
}
const choose = (page: Page) => register(page, 'Ground').getByRole('row').first().click()
const east = (page: Page) => card(page).getByRole('textbox', { name: /^east/ })
async function setEast(page: Page, value: string): Promise<void> {
  await east(page).fill(value)
  await page.keyboard.press('Enter')
}

test('an edit made after the answer to a save was lost is there after reloading', async ({ page }) => {
  await newLevel(page)
  await chosenBlock(page)
  // The server takes the first save; its answer never arrives.
  let lost = 0
  await page.route('**/api/levels/*', async (route) => {
    if (route.request().method() !== 'PATCH' || lost > 0) return route.fallback()
    lost++
    await route.fetch()
    await route.abort('connectionreset')
  })
  await setEast(page, '41')
  await expect(page.getByTestId('kept')).toContainText('no connection')
  await setEast(page, '42')
  await allKept(page)
  expect(lost).toBe(1)
  await page.reload()
  await choose(page)
  await expect(east(page)).toHaveValue('42')
})

test('what may not be in a level is refused where it is typed, and later edits are kept', async ({ page }) => {
  await newLevel(page)
  await chosenBlock(page)
  await setEast(page, '99999999')
  await expect(page.getByText(/east may be at most 100,000\.$/)).toBeVisible()
  await expect(east(page)).toHaveValue('30')
  await setEast(page, '33')
  await allKept(page)
  await page.reload()
  await choose(page)
  await expect(east(page)).toHaveValue('33')
})

test('a change the server does not take is set aside and shown; what came after is kept', async ({ page }) => {
  await newLevel(page)
  await chosenBlock(page)
  let refused = 0
  await page.route('**/api/levels/*', async (route) => {
    if (route.request().method() !== 'PATCH' || refused > 0) return route.fallback()
    refused++
    const detail = 'solids.sd_x.at.0: is where a test says nobody may be'
    await route.fulfill({
      status: 422,
      contentType: 'application/problem+json',
      body: JSON.stringify({ type: 'about:blank', title: 'Not valid', status: 422, detail }),
    })
  })
  await setEast(page, '50')
  await page.getByRole('button', { name: '1 set aside' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('is where a test says nobody may be')
  await expect(dialog).toContainText(/place: 50, 60 m/)
  await dialog.getByRole('button', { name: 'Close' }).click()
  await expect(east(page)).toHaveValue('30')
  await page.getByRole('textbox', { name: 'Name of the level' }).fill('Goes on')
  await page.keyboard.press('Enter')
  await allKept(page)
  await page.getByRole('button', { name: '1 set aside' }).click()
  await dialog.getByRole('button', { name: 'Put back and try again' }).click()
  await expect(dialog).toContainText('Nothing is set aside any more.')
  await dialog.getByRole('button', { name: 'Close' }).click()
  await expect(page.getByTestId('kept')).toContainText(/^\s*kept/)
  await page.reload()
  await expect(page.getByRole('textbox', { name: 'Name of the level' })).toHaveValue('Goes on')
  await choose(page)
  await expect(east(page)).toHaveValue('50')
})

test('an undo over what another tab changed asks first, and a conflict names both values and can wait', async ({
  page,
  context,
}) => {
  await newLevel(page)
  await chosenBlock(page)
  await setEast(page, '75')
  await allKept(page)
  const other = await context.newPage()
  await other.goto(page.url())
  await choose(other)
  await expect(east(other)).toHaveValue('75')
  await setEast(other, '80')
  await allKept(other)
  await expect(east(page)).toHaveValue('80')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Undo over what others changed?')
  await expect(dialog).toContainText('80, 60 m')
  await dialog.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(east(page)).toHaveValue('80')

  // Both change the same while this page cannot hear of the other.
  await page.route('**/api/levels/*', (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.fallback(),
  )
  await setEast(page, '20')
  await expect(page.getByTestId('kept')).toContainText('no connection')
  await setEast(other, '90')
  await allKept(other)
  await page.unroute('**/api/levels/*')
  await expect(dialog).toContainText('This level was changed elsewhere too')
  await expect(dialog).toContainText(/, place/)
  await expect(dialog).toContainText('20, 60 m')
  await expect(dialog).toContainText('90, 60 m')
  await dialog.getByRole('button', { name: 'Decide later' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(east(page)).toHaveValue('20')
  await page.getByRole('button', { name: 'changed elsewhere too: decide' }).click()
  await dialog.getByRole('button', { name: 'Take theirs and let mine go' }).click()
  await expect(east(page)).toHaveValue('90')
  await allKept(page)
})

test('a rehearsal is out of date only while the level differs', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  const note = page.getByText(/was changed once on the way/)
  await expect(page.getByTestId('hash')).toBeVisible()
  await expect(note).toHaveCount(0)
  await page.getByRole('textbox', { name: 'Name of the level' }).fill('Other')
  await page.keyboard.press('Enter')
  await expect(note).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(note).toHaveCount(0)
  await allKept(page)
})

test('edits made without a connection are not forgotten by leaving the level and coming back', async ({
  page,
  context,
}) => {
  await newLevel(page)
  await chosenBlock(page)
  const name = `Left ${Date.now()}`
  await page.getByRole('textbox', { name: 'Name of the level' }).fill(name)
  await page.keyboard.press('Enter')
  await allKept(page)
  await context.setOffline(true)
  await setEast(page, '44')
  await expect(page.getByTestId('kept')).toContainText('no connection')
  await page.getByRole('link', { name: 'To the shelf' }).click()
  await expect(page.getByText(/The shelf cannot be read/)).toBeVisible()
  await context.setOffline(false)
  await page.getByRole('button', { name: 'Try again' }).click()
  await page.getByRole('link', { name, exact: true }).click()
  await expect(page.getByText('Changes that had not been kept yet are back.')).toBeVisible()
  await page.keyboard.press('1')
  await choose(page)
  await expect(east(page)).toHaveValue('44')
  await allKept(page)
})
