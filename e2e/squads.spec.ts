import { expect, test, type Page } from '@playwright/test'
import { card, click, drag, drawer, drawPatrol, newLevel, register, stage } from './sheet'

const tab = (page: Page, name: string) => drawer(page).getByRole('tab', { name }).click()
const list = (page: Page, name: RegExp) => register(page, 'Cast').getByRole('tab', { name }).click()
/** Places spawners with the tool in hand, and puts it back. */
async function spawnersAt(page: Page, ...places: [number, number][]): Promise<void> {
  await page.keyboard.press('s')
  for (const [x, y] of places) await click(page, x, y)
  await page.keyboard.press('c')
}
async function rename(page: Page, name: string): Promise<void> {
  await card(page).getByLabel('Name').fill(name)
  await page.keyboard.press('Enter')
}
async function circle(page: Page, at: [number, number], rim: [number, number]): Promise<void> {
  await page.keyboard.press('z')
  await page.getByRole('radio', { name: 'Circle' }).check()
  await drag(page, at, rim)
}

test('from an empty level: squads in zones drawn for each, a top-up, a guard who comes back, and a carter', async ({
  page,
}) => {
  await newLevel(page)
  // A road for the cart, and a body for it.
  await drawPatrol(page, [
    [16, 12],
    [60, 12],
    [100, 12],
  ])
  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  await page.getByRole('tab', { name: /^Profiles/ }).click()
  await page.getByRole('button', { name: 'Add a profile' }).click()
  await page.getByRole('menuitem', { name: /Tide-cart/ }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('4')

  // Two factions, hostile by one click.
  await tab(page, 'Factions')
  await drawer(page).getByRole('button', { name: 'Make a faction' }).click()
  await rename(page, 'Wardens')
  await drawer(page).getByRole('button', { name: 'Make a faction' }).click()
  await rename(page, 'Thieves')
  const pair = drawer(page).getByRole('button', { name: /^Wardens and Thieves/ })
  await expect(pair).toHaveAccessibleName('Wardens and Thieves: neutral')
  await pair.click()
  await pair.click()
  await expect(pair).toHaveAccessibleName('Wardens and Thieves: hostile')
  await expect(card(page)).toContainText('Stands to others')
  await drawer(page).getByRole('button', { name: 'Fold the drawer' }).click()

  // Two zones to roam in, drawn as circles.
  await circle(page, [30, 60], [38, 60])
  await expect(card(page)).toContainText(/can reach\s*100 % of it/)
  await circle(page, [90, 60], [98, 60])
  await page.keyboard.press('Escape')

  // Two squads, told by one brief to be in one of the zones.
  await list(page, /^Squads/)
  for (const name of ['Reds', 'Blues']) {
    await page.getByRole('button', { name: 'Make a squad' }).click()
    await rename(page, name)
    await card(page).getByLabel('faction', { exact: true }).selectOption('Wardens')
  }
  await list(page, /^Briefs/)
  await page.getByRole('button', { name: 'Write a brief' }).click()
  await card(page).getByRole('button', { name: 'Roamer' }).click()
  await card(page)
    .getByRole('button', { name: /^Wander in/ })
    .click()
  await card(page).getByLabel('zone', { exact: true }).selectOption('Zone 1')
  await card(page).getByRole('button', { name: 'Or another zone' }).click()
  await expect(card(page)).toContainText('Wander in one of Zone 1 1, Zone 2 1')
  await list(page, /^Spawners/)
  await spawnersAt(page, [55, 50], [65, 50])
  await tab(page, 'Table')
  const table = drawer(page).getByRole('table', { name: 'Squads and spawners' })
  for (const [k, name] of [
    [1, 'Reds'],
    [2, 'Blues'],
  ] as const) {
    await table.getByLabel(`squad of Spawner ${k}`).selectOption(name)
    await table.getByLabel(`brief of ${name}`).selectOption('Brief 1')
    await table.getByLabel(`how many Spawner ${k} sends`).fill('3')
    await page.keyboard.press('Tab')
  }
  await expect(table.getByLabel('faction of Spawner 1')).toContainText('Wardens (squad)')
  await expect(table.getByRole('row', { name: /^Reds/ })).toContainText('Thieves')
  await drawer(page).getByRole('button', { name: 'Fold the drawer' }).click()

  // Eight kept alive in a zone.
  await page.keyboard.press('Escape')
  await spawnersAt(page, [60, 70])
  await card(page).getByLabel('where', { exact: true }).selectOption('in a zone')
  await expect(card(page)).toContainText('never sends anybody: no zone is chosen')
  await card(page).getByLabel('in zone').selectOption('Zone 2')
  await card(page).getByLabel('how many', { exact: true }).fill('8')
  await page.keyboard.press('Enter')
  await card(page).getByLabel('that is').selectOption('kept alive')
  await card(page).getByLabel('faction', { exact: true }).selectOption('Wardens')
  await expect(card(page)).toContainText('8 agents kept alive')
  await card(page).getByRole('button', { name: 'Write a brief' }).click()
  await card(page).getByLabel('add a step').selectOption('Pause')
  await card(page).getByLabel('add a step').selectOption('Leave')
  await expect(card(page)).toContainText('Leave the level.')

  // A guard on a post, and the thief he leaves it for.
  await page.keyboard.press('p')
  await drag(page, [20, 36], [26, 36])
  await page.keyboard.press('c')
  await expect(card(page)).toContainText('belongs to no zone')
  await circle(page, [20, 36], [25, 36])
  await page.keyboard.press('c')
  await expect(card(page)).toContainText('None yet. Place some with O')
  await card(page).getByRole('button', { name: 'Take the post of no zone' }).click()
  await expect(card(page)).toContainText('Post 1')
  await page.keyboard.press('Escape')
  await spawnersAt(page, [20, 32])
  await card(page).getByLabel('faction', { exact: true }).selectOption('Wardens')
  await card(page).getByRole('button', { name: 'Write a brief' }).click()
  await card(page).getByRole('button', { name: 'Sentry' }).click()
  await expect(card(page)).toContainText('If you see someone hostile')
  await card(page)
    .getByRole('button', { name: /^Hold a post/ })
    .click()
  await card(page).getByLabel('zone', { exact: true }).selectOption('Zone 3')
  await page.keyboard.press('Escape')
  await drawPatrol(page, [
    [50, 36],
    [34, 36],
    [50, 26],
    [112, 26],
  ])
  await page.keyboard.press('Escape')
  await page.keyboard.press('4')
  await spawnersAt(page, [51, 36])
  await rename(page, 'Thief')
  await card(page).getByLabel('faction', { exact: true }).selectOption('Thieves')
  await card(page).getByLabel('follows').selectOption({ index: 2 })
  await card(page).getByLabel('first after, s').fill('12')
  await page.keyboard.press('Enter')
  await card(page).getByRole('button', { name: 'Open brief' }).click()
  await card(page).getByLabel('add a step').selectOption('Leave')
  await page.keyboard.press('Escape')

  // A cart, and somebody who drives it along the road.
  await spawnersAt(page, [12, 16])
  await rename(page, 'Cart')
  await card(page).getByLabel('profile', { exact: true }).selectOption('Tide-cart')
  await card(page).getByLabel('faction', { exact: true }).selectOption('Wardens')
  await page.keyboard.press('Escape')
  await spawnersAt(page, [8, 20])
  await rename(page, 'Carter')
  await card(page).getByLabel('profile', { exact: true }).selectOption('Warden')
  await card(page).getByLabel('faction', { exact: true }).selectOption('Wardens')
  await card(page).getByRole('button', { name: 'Write a brief' }).click()
  await card(page).getByLabel('add a step').selectOption('Board a vehicle or boat')
  await card(page).getByLabel('one of').selectOption('Cart')
  await card(page).getByLabel('add a step').selectOption('Follow a route')
  await card(page).getByLabel('route', { exact: true }).selectOption({ index: 1 })
  await card(page).getByLabel('add a step').selectOption('Get out')
  await expect(card(page)).toContainText('Board Cart.')

  // Nothing stands in the way of any of it.
  await page.keyboard.press('Escape')
  await expect(card(page)).not.toContainText('blocker', { timeout: 20_000 })
  await stage(page, 'Rehearse').click()
  await page.keyboard.press('Escape')
  await register(page, 'On the ground').getByLabel('lasts, s').fill('180')
  await page.keyboard.press('Tab')
  await tab(page, 'Run')
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByTestId('hash')).toBeVisible({ timeout: 90_000 })
  await drawer(page).getByLabel('Time in the rehearsal').fill('179')
  const story = async (name: RegExp) => {
    await register(page, 'On the ground').getByRole('row', { name }).click()
    return card(page)
  }
  await expect(await story(/^Carter/)).toContainText('got out')
  const guard = await story(/^Spawner 4/)
  await expect(guard).toContainText('began step 2 of standing sentence 1')
  await expect(guard).toContainText('took up what it had broken off')
  // Back on his post.
  await expect(guard).toContainText(/x (19\.[5-9]|20\.[0-5]) y (35\.[5-9]|36\.[0-5])/)
  // Of the first squad and the second some are in the one zone and some in the other: each is at a time in just one.
  const rows = register(page, 'On the ground').getByRole('row')
  expect(await rows.filter({ hasText: /^Spawner [12] \d/ }).count()).toBe(6)
  // Whoever leaves is replaced.
  expect(await rows.filter({ hasText: /^Spawner 3 \d/ }).count()).toBeGreaterThan(40)
})

test('a spawner placed on a route follows it, several in a row, and each draws its faction’s drop', async ({
  page,
}) => {
  await newLevel(page)
  await drawPatrol(page, [
    [30, 40],
    [90, 40],
  ])
  await page.keyboard.press('Escape')
  await page.keyboard.press('4')
  await page.keyboard.press('s')
  await click(page, 30, 40)
  await expect(card(page)).toContainText('Follow Patrol 1')
  await click(page, 60, 40)
  await expect(card(page).getByLabel('Name')).toHaveValue('Patrol 1 spawner 2')
  await click(page, 60, 60)
  await expect(card(page)).toContainText('Nothing to do')
  // Both follow by one brief, so that a change reaches both.
  await register(page, 'Cast')
    .getByRole('tab', { name: /^Briefs/ })
    .click()
  await expect(register(page, 'Cast').getByRole('row')).toHaveCount(1)
  await register(page, 'Cast').getByRole('row').click()
  await expect(card(page)).toContainText('Patrol 1 spawner 1')
  await card(page).getByLabel('tell somebody else').selectOption('Spawner 1')
  await expect(card(page).getByRole('button', { name: 'Spawner 1', exact: true })).toBeVisible()
})
