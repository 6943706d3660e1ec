import { expect, test, type Page } from '@playwright/test'
import { expectAccessible } from './axe'
import { card, drawer, newLevel, openLevel, register, stage } from './sheet'

const STAGES = ['Ground', 'Reach', 'Routes', 'Cast', 'Rehearse', 'Sign-off']
const rows = (page: Page) => page.getByRole('grid').getByRole('row')

/** Every list of a stage with the first of its things chosen, and all there are chosen together. */
async function everyList(page: Page, name: string): Promise<void> {
  await stage(page, name).click()
  // Their counts may change while they are walked through.
  const tabs = (await page.getByRole('tab').allTextContents()).map((t) => t.replace(/[\d,]+/g, '').trim())
  for (const tab of tabs) {
    await page
      .getByRole('tab', { name: new RegExp(`^${tab}`) })
      .first()
      .click()
    await firstOf(page)
    await expectAccessible(page, `${name}, ${tab}`)
  }
  await everything(page, name)
}

/** Chooses the first thing of the list that is shown, if there is one. */
async function firstOf(page: Page): Promise<void> {
  if ((await rows(page).count()) === 0) return
  await rows(page).first().click()
  await expect(card(page)).toBeVisible()
}

async function everything(page: Page, name: string, ...rules: readonly string[]): Promise<void> {
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+a')
  await expectAccessible(page, `${name}, all chosen`, ...rules)
  await page.keyboard.press('Escape')
}

/** Opens the level in which everything there can be is wrong. */
async function roughDraft(page: Page): Promise<void> {
  await openLevel(page, 'Rough draft')
  await expect(drawer(page)).toContainText(/Findings \d\d/, { timeout: 60_000 })
}

const aRehearsal = async (page: Page): Promise<void> => {
  await stage(page, 'Rehearse').click()
  await page.keyboard.press('k')
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 60_000 })
  await rows(page).first().click()
}

async function theProofs(page: Page): Promise<void> {
  await stage(page, 'Sign-off').click()
  await page.getByRole('button', { name: 'Open the sheet' }).click()
  await expect(page.getByTestId('proofs')).toBeVisible()
}

test('everyone can get at everything on every stage', async ({ page }) => {
  await roughDraft(page)
  for (const name of STAGES) await everyList(page, name)
  await aRehearsal(page)
  await expectAccessible(page, 'a rehearsal with somebody chosen')
  for (const tab of ['String-line', 'Windows', 'Traffic', 'Seeds', 'Compare']) {
    await drawer(page).getByRole('tab', { name: tab }).click()
    await expectAccessible(page, `${tab} of a rehearsal`)
  }
  await theProofs(page)
  await expectAccessible(page, 'the sheet of proofs')
})

test('by night everything is as by day but for its colours, which keep their contrast', async ({ page }) => {
  await roughDraft(page)
  await page.getByRole('button', { name: 'Night' }).click()
  for (const name of STAGES) {
    await stage(page, name).click()
    await firstOf(page)
    await expectAccessible(page, name, 'color-contrast')
    await everything(page, name, 'color-contrast')
  }
  await aRehearsal(page)
  for (const tab of ['String-line', 'Traffic', 'Compare']) {
    await drawer(page).getByRole('tab', { name: tab }).click()
    await expectAccessible(page, `${tab} of a rehearsal`, 'color-contrast')
  }
  await theProofs(page)
  await expectAccessible(page, 'the sheet of proofs', 'color-contrast')
})

test('everyone can get at the shelf, at every tool and in every dialog', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByTestId('level').first()).toBeVisible()
  await expectAccessible(page, 'the shelf')
  await page.goto('/levels/lv_nothere/routes')
  await expect(page.getByText('This level cannot be opened')).toBeVisible()
  await expectAccessible(page, 'a level that is not there')

  await newLevel(page)
  for (const name of STAGES) {
    await stage(page, name).click()
    await expectAccessible(page, `${name} of an empty level`)
    const tools = page.getByRole('toolbar').getByRole('button')
    for (let k = 0; k < (await tools.count()); k++) {
      await tools.nth(k).click()
      await expectAccessible(page, `${name}, with ${await tools.nth(k).textContent()}`)
      await page.keyboard.press('Escape')
      await page.keyboard.press('c')
    }
  }

  await openLevel(page, 'Lanternquay by night')
  const head = page.getByRole('banner')
  await head.getByRole('button', { name: 'Keys' }).click()
  await expectAccessible(page, 'the keys')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('quay')
  await expectAccessible(page, 'find')
  await page.keyboard.press('Escape')
  await head.getByRole('button', { name: 'Legend' }).click()
  await expectAccessible(page, 'the legend')
  await head.getByRole('button', { name: 'Legend' }).click()
  await stage(page, 'Ground').click()
  await register(page, 'Ground').getByRole('row').first().click()
  await card(page).getByRole('button', { name: 'Copies …' }).click()
  await expect(page.getByRole('heading', { name: /Copies/ })).toBeVisible()
  await expectAccessible(page, 'copies')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await register(page, 'Ground').getByRole('button', { name: 'Import' }).click()
  await expect(page.getByRole('heading', { name: /Import/ })).toBeVisible()
  await expectAccessible(page, 'import')
  await page.keyboard.press('Escape')
  await page.keyboard.press('o')
  await expect(page.getByTestId('overlook')).toBeVisible()
  await expectAccessible(page, 'the Overlook')
})
