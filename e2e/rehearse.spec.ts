import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { at, card, click, drag, drawer, newLevel, openLevel, patrolled, register } from './sheet'

const BIN = path.resolve('cli/bin/tidytrail.mjs')

// How soon is for the benchmark of moving agents to say.
test('wardens walk after opening Lanternquay and pressing Rehearse', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  await expect(register(page, 'On the ground').getByRole('row', { name: /Gatehouse 1/ })).toContainText(
    /on its way|leg \d/,
    {
      timeout: 60_000,
    },
  )
})

test.describe('the same level and seed give the same recording in the browser and on the command line', () => {
  let folder: string
  test.beforeAll(() => {
    folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-hash-'))
    execFileSync(process.execPath, [BIN, 'demo', '--out', folder])
  })
  test.afterAll(() => rmSync(folder, { recursive: true }))
  const rehearsed = (slug: string): string => {
    // It ends with 1 for a level on which not all follow their routes, and prints its report all the same.
    const { stdout } = spawnSync(
      process.execPath,
      [BIN, 'rehearse', path.join(folder, `${slug}.tidytrail.json`), '--format', 'json'],
      { encoding: 'utf8' },
    )
    return JSON.parse(stdout).hash
  }

  for (const { slug, name, chance } of [
    { slug: 'lanternquay', name: 'Lanternquay by night', chance: true },
    // Nothing in it is left to chance, so that every seed gives the same.
    { slug: 'rough-draft', name: 'Rough draft', chance: false },
  ]) {
    test(name, async ({ page }) => {
      const hash = rehearsed(slug)
      expect(hash).toMatch(/^[0-9a-f]{8,}$/)
      await openLevel(page, name)
      await page.keyboard.press('5')
      await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
      await expect(page.getByTestId('hash')).toHaveText(hash, { timeout: 60_000 })
      if (!chance) return
      await register(page, 'On the ground').getByRole('button', { name: 'Other luck' }).click()
      await expect(page.getByTestId('hash')).not.toHaveText(hash)
    })
  }
})

/** Saves the run, repeats it on the command line, and expects the very same recording. */
async function expectRepeated(page: Page): Promise<void> {
  // It stands on the card of what there is to do, which is there while nothing is chosen.
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  const hash = await page.getByTestId('hash').textContent()
  const waiting = page.waitForEvent('download')
  await drawer(page).getByRole('button', { name: 'Save this run' }).click()
  const file = await (await waiting).path()
  const { stdout } = spawnSync(process.execPath, [BIN, 'rehearse', file, '--format', 'json'], { encoding: 'utf8' })
  expect(JSON.parse(stdout).hash).toBe(hash)
}

test('a rehearsal is paused, stepped, sped up, scrubbed back and begun again', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await register(page, 'On the ground').getByRole('button', { name: 'Rehearse' }).click()
  await expect(page.getByTestId('hash')).toBeVisible()
  const clock = page.getByTestId('clock')
  await drawer(page).getByRole('button', { name: 'Pause' }).click()
  await drawer(page).getByRole('slider').fill('120')
  await expect(clock).toContainText('2:00 of 5:00')
  for (let k = 0; k < 10; k++) await page.keyboard.press('.')
  await expect(clock).toContainText('2:01 of 5:00')
  await drawer(page).getByRole('button', { name: 'Faster' }).click()
  await expect(drawer(page).getByLabel('Speed of the rehearsal')).toHaveText('×2')
  await drawer(page).getByRole('slider').fill('32')
  await register(page, 'On the ground')
    .getByRole('row', { name: /Gatehouse 1/ })
    .click()
  await expect(card(page).getByTestId('agent-state')).toContainText('pausing at 2, Bollard row')
  await expect(card(page)).toContainText('reached stop 1, Gate steps')
  await register(page, 'On the ground').getByRole('button', { name: 'Again, same luck' }).click()
  await expect(clock).toContainText('0:0')
})

test('the path probe measures the way, and says why there is none', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [40, 20], [44, 60])
  await page.keyboard.press('2')
  await expect(register(page, 'Reach')).toContainText('1 island')
  await page.keyboard.press('p')
  await click(page, 20, 40)
  await click(page, 60, 40)
  // Round the wall's end, 0.35 m clear of its corners: 28.4 + 4.4 + 25.7 m.
  await expect(card(page).getByRole('heading')).toHaveText(/^58\.\d m$/)
  await page.keyboard.press('Escape')
  await click(page, 20, 40)
  await click(page, 42, 40)
  await expect(card(page)).toContainText('There is no way for warden: on top of Block 1, which is not for walking on')
  await page.keyboard.press('w')
  const within = await at(page, 42, 41)
  await page.mouse.move(within.x, within.y)
  await expect(page.getByTestId('why')).toContainText('on top of Block 1')
})

test('moving a solid by its handle keeps the reach up to date', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [40, 0], [44, 79])
  await page.keyboard.press('2')
  await expect(register(page, 'Reach')).toContainText('1 island')
  await page.keyboard.press('1')
  // The upper right corner up to the level's edge: the wall now parts the level.
  await drag(page, [44, 79], [44, 80])
  await page.keyboard.press('2')
  await expect(register(page, 'Reach')).toContainText('2 islands')
  await page.keyboard.press('Control+z')
  await expect(register(page, 'Reach')).toContainText('1 island')
})

test('a crate that is moved while it runs is gone round, from the moment it is', async ({ page }) => {
  await patrolled(page)
  await page.keyboard.press('Escape')
  await page.keyboard.press('5')
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  const one = register(page, 'On the ground').getByRole('row').first()
  await expect(one).toContainText('leg 1 to 2')
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [60, 36], [64, 44])
  await page.keyboard.press('5')
  await expect(register(page, 'On the ground')).toContainText('The level was changed once on the way')
  await one.click()
  await expect(page.getByTestId('hash')).toBeHidden()
  await expectRepeated(page)
  await register(page, 'On the ground').getByRole('button', { name: 'Again, same luck' }).click()
  await expect(register(page, 'On the ground')).not.toContainText('was changed')
})

test('the thief is steered by keys, seen, and it all happens otherwise from a moment on', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  const slider = drawer(page).getByLabel('Time in the rehearsal')
  const thief = register(page, 'On the ground').getByRole('row', { name: /Thief/ })
  await expect(drawer(page).getByTestId('clock')).not.toContainText('rehearsed to', { timeout: 60_000 })
  await slider.fill('30')
  await thief.click()
  await card(page).getByRole('button', { name: 'Steer by keys' }).click()
  await page.keyboard.down('ArrowDown')
  await expect(card(page).getByTestId('agent-state')).toHaveText('goes where it is steered')
  await page.waitForTimeout(600)
  await page.keyboard.up('ArrowDown')
  await expect(card(page)).toContainText('was taken by the keys')
  await page.keyboard.press('Escape')
  await expect(card(page)).toContainText('was let go')
  await card(page).getByRole('button', { name: 'Keep its line' }).click()
  await expect(card(page).getByLabel('Name')).toHaveValue(/^Line of Thief/)
  await drawer(page).getByRole('tab', { name: 'Run', exact: true }).click()
  await drawer(page).getByRole('button', { name: 'Pause' }).click()
  await slider.fill('10')
  await drawer(page).getByRole('button', { name: 'From here' }).click()
  await expect(page.getByTestId('differences')).toBeVisible({ timeout: 60_000 })
  // What was recorded before is not lost, and what was done by keys is repeated on the command line.
  await expect(page.getByRole('group', { name: 'Watch' }).getByLabel('Run before')).toBeChecked()
  await expectRepeated(page)
})

test('everybody’s places are saved as CSV', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('5')
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  const saved = page.waitForEvent('download')
  await drawer(page).getByRole('button', { name: 'Save places as CSV' }).click()
  expect((await saved).suggestedFilename()).toBe('Lanternquay by night places.csv')
})
