import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { allKept, openLevel, stage } from './sheet'

const row = (page: Page, name: string) =>
  page.getByTestId('level').filter({ has: page.getByRole('link', { name, exact: true }) })

test('the shelf offers the demo levels, drawn from their data', async ({ page }) => {
  await page.goto('/')
  for (const name of ['Lanternquay by night', 'Rough draft']) {
    await expect(row(page, name)).toBeVisible()
    expect(await row(page, name).locator('svg polygon').count()).toBeGreaterThan(10)
  }
})

test('levels are duplicated, renamed, deleted and brought back', async ({ page }) => {
  await page.goto('/')
  await row(page, 'Rough draft').getByRole('button', { name: 'Duplicate' }).click()
  const copy = row(page, 'Rough draft, copy')
  await copy.getByRole('button', { name: 'Rename' }).click()
  await page.getByRole('textbox', { name: 'New name' }).fill('Second draft')
  await page.keyboard.press('Enter')
  await row(page, 'Second draft').getByRole('button', { name: 'Delete' }).click()
  await expect(row(page, 'Second draft')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, 'Second draft')).toBeVisible()
  await row(page, 'Second draft').getByRole('button', { name: 'Delete' }).click()
})

test('a level goes out as a file and comes back the same', async ({ page }) => {
  await page.goto('/')
  const waiting = page.waitForEvent('download')
  await row(page, 'Lanternquay by night').getByRole('button', { name: 'Export' }).click()
  const download = await waiting
  expect(download.suggestedFilename()).toBe('Lanternquay by night.tidytrail.json')
  const file = await download.path()
  const text = readFileSync(file, 'utf8').replace('"Lanternquay by night"', '"Came back"')
  await page
    .getByTestId('import')
    .setInputFiles({ name: 'back.tidytrail.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  const { routes, spawners } = JSON.parse(text) as Record<'routes' | 'spawners', object>
  const counts = `${Object.keys(routes).length} routes · ${Object.keys(spawners).length} spawners`
  await expect(row(page, 'Came back')).toContainText(counts)
  await row(page, 'Came back').getByRole('button', { name: 'Delete' }).click()
})

test('files that are no levels are refused with one line that names the place', async ({ page }) => {
  await page.goto('/')
  await expect(row(page, 'Rough draft')).toBeVisible()
  await page.waitForLoadState('networkidle')
  const before = await page.getByTestId('level').count()
  const cases: [string, string][] = [
    ['{"format": ', 'this is not JSON'],
    ['{"format": "other"}', 'format: expected "tidytrail-level"'],
    ['{"format": "tidytrail-level", "version": 12}', 'version: is 12'],
    [
      '{"format": "tidytrail-level", "version": 1, "name": "X", "settings": {"extent": {"minX": 0, "minY": 0, "maxX": 9, "maxY": 1e999}}}',
      'settings.extent.maxY',
    ],
  ]
  for (const [text, why] of cases) {
    await page
      .getByTestId('import')
      .setInputFiles({ name: 'bad.json', mimeType: 'application/json', buffer: Buffer.from(text) })
    await expect(page.getByText(why).last()).toBeVisible()
  }
  await expect(page.getByTestId('level')).toHaveCount(before)
})

test('a level that is not there says so and leads back', async ({ page }) => {
  await page.goto('/levels/lv_nothere99/routes')
  await expect(page.getByText('there is no level lv_nothere99 on the shelf')).toBeVisible()
  await page.getByRole('main').getByRole('link', { name: 'To the shelf' }).click()
  await expect(page.getByRole('heading', { name: 'Tidy Trail' })).toBeVisible()
})

test('a planted fault is listed, shown and mended in Rough draft', async ({ page }) => {
  await page.goto('/')
  await row(page, 'Rough draft').getByRole('button', { name: 'Duplicate' }).click()
  // Who leaves the page before it is there takes the request back.
  await expect(row(page, 'Rough draft, copy')).toBeVisible()
  await openLevel(page, 'Rough draft, copy')
  await expect(stage(page, 'Routes')).toHaveAccessibleName(/blockers/)
  const floating = page.getByRole('row', { name: /hangs 2\.40 m above/ })
  await floating.getByRole('button', { name: 'Mend' }).click()
  await expect(floating).toHaveCount(0)
  await allKept(page)
  await page.getByRole('link', { name: 'To the shelf' }).click()
  await expect(row(page, 'Rough draft, copy')).toContainText('revision 2')
})
