import { expect, test } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { expectAccessible } from './axe'
import { allKept, card, click, drag, drawer, drawRoad, newLevel, register, stage } from './sheet'

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
  // The lane beside it may be changed into, but not just before the end once that is said.
  await register(page, 'Routes').getByRole('row', { name: /Road 1 ahead 1/ }).click() // prettier-ignore
  const beside = card(page).getByRole('list', { name: 'Lanes beside it' })
  await expect(beside.getByRole('listitem')).toHaveText(/^Road 1 ahead 2\s+on the left, 0 to \d+ m/)
  await card(page).getByRole('button', { name: '… on the last 30 m' }).click()
  const kept = card(page).getByRole('group', { name: 'No changing, 1' })
  await expect(kept.getByRole('textbox').first()).toHaveValue(/^4\d\.\d$/)
  await kept.getByLabel('Which side, 1').selectOption('left')
  await expectAccessible(page, 'a lane with one beside it')
  await kept.getByRole('button', { name: 'Allow changing again, 1' }).click()
  await expect(kept).toHaveCount(0)
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

test('a crossing is laid over a road from pavement to pavement, says who waits, and people walk about on it', async ({
  page,
}) => {
  await newLevel(page)
  await drawRoad(page, [
    [10, 40],
    [90, 40],
  ])
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: /^Roads/ }).click()
  await register(page, 'Routes').getByRole('row', { name: /Road 1/ }).click() // prettier-ignore
  for (const side of ['left', 'right']) {
    await card(page).getByLabel(`pavement ${side}`).fill('2')
    await card(page).getByLabel(`pavement ${side}`).press('Enter')
  }
  await card(page).getByRole('button', { name: 'Lay it' }).click()
  await expect(card(page).getByRole('list', { name: 'Crossings' })).toHaveText(/over\s+Road 1 ahead 1,\s+Road 1 back 1/)
  await expect(card(page)).toContainText(/Joined to\s+Road 1 pavement left,\s+Road 1 pavement right/)
  await card(page).getByRole('button', { name: 'walkers wait' }).click()
  await expect(card(page).getByRole('button', { name: 'walkers wait' })).toHaveAttribute('aria-pressed', 'true')
  await expectAccessible(page, 'a crossing')
  // Somebody who is told to walk about goes over it to the other pavement, and nowhere else over the road.
  await page.keyboard.press('4')
  await page.keyboard.press('s')
  await click(page, 20, 55)
  await card(page).getByRole('button', { name: 'Write a brief' }).click()
  await card(page).getByLabel('add a step').selectOption({ label: 'Walk about on lanes' })
  await expect(card(page)).toContainText('Walk about on lanes for walking, standing 0 to 4 s at each place.')
  await page.keyboard.press('5')
  await page.keyboard.press('Escape')
  await page.locator('button.btn-main', { hasText: 'Rehearse' }).click()
  await expect(page.getByTestId('hash')).toBeVisible()
  await expect(register(page, 'On the ground').getByRole('row', { name: /Spawner 1/ })).toContainText(
    /on its way|pausing/,
  )
})

test('a roundabout in one stroke, a stream onto it, and counters: who comes in gives way, and a watch area too short is told', async ({
  page,
}) => {
  test.setTimeout(120_000)
  await newLevel(page)
  await page.keyboard.press('2')
  await page.getByRole('tab', { name: /^Profiles/ }).click()
  await page.getByRole('button', { name: 'Add a profile' }).click()
  await page.getByRole('menuitem', { name: /Tide-cart/ }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('3')
  for (const arm of [
    [
      [4, 40],
      [36, 40],
    ],
    [
      [116, 40],
      [84, 40],
    ],
    [
      [60, 78],
      [60, 63],
    ],
  ] as [number, number][][])
    // prettier-ignore
    await drawRoad(page, arm)
  await page.keyboard.press('Escape')
  // Where no road ends there is nothing to make a ring of, and it says so.
  await page.keyboard.press('e')
  await click(page, 12, 12)
  await page.keyboard.press('Enter')
  await expect(page.getByText('have to end before it')).toBeVisible()
  await page.keyboard.press('Escape')
  await click(page, 60, 40)
  await click(page, 60, 52)
  await expect(card(page).getByTestId('settled')).toHaveText('All 3 conflicts are settled.')
  await expectAccessible(page, 'a roundabout')

  // Who comes in watches as much as it needs; told to look less far, it is said why that is wrong.
  const watches = card(page).getByTestId('watches')
  await watches.locator('summary').click()
  await expect(watches.getByTestId('watch-says').first()).toHaveText('as far as needed')
  const looks = watches.getByRole('textbox').first()
  await looks.fill('4')
  await looks.press('Enter')
  await expect(watches.getByTestId('watch-says').first()).toContainText(/one comes from there in .* It needs \d+/)
  await expect(drawer(page)).toContainText(/watches 4 m of .* and needs \d+/)
  const short = drawer(page).getByRole('row', { name: /watches 4 m of/ })
  await short.getByRole('button', { name: 'Mend', exact: true }).click()
  await expect(short).toHaveCount(0)

  // Traffic onto it, and a counter on the ring.
  await page.keyboard.press('4')
  await page.getByRole('tab', { name: /^Spawners/ }).click()
  await page.getByRole('button', { name: 'Add a stream of traffic' }).click()
  await expect(card(page)).toContainText('onto each of 3 lanes')
  await expectAccessible(page, 'a stream')
  await page.keyboard.press('5')
  await page.keyboard.press('n')
  await click(page, 60, 28)
  await expect(card(page)).toContainText('Rehearse, to see who passes.')
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: 'Run', exact: true }).click()
  await drawer(page).getByRole('button', { name: 'Start', exact: true }).click()
  await page.getByRole('tab', { name: /^Traffic/ }).click()
  await expect(drawer(page)).toContainText(/Counter 1 · [1-9]/, { timeout: 60_000 })
  await page.getByRole('button', { name: 'Queues' }).click()
  await expect(page.getByTestId('approaches').getByRole('row')).toHaveCount(4)
  await expectAccessible(page, 'queues by approach')
  await page.getByRole('button', { name: 'Slowest places' }).click()
  await expect(page.getByTestId('slowest')).toContainText(/\d+ to \d+ m/)
})

test('streets are brought in from a map: roads, a roundabout, signals, all joined and settled', async ({ page }) => {
  test.setTimeout(120_000)
  await newLevel(page)
  await page.keyboard.press('1')
  const buffer = readFileSync('docs/examples/tansy-ford.osm')
  await page.getByRole('button', { name: 'Import …' }).click()
  await page.getByTestId('import-file').setInputFiles({ name: 'tansy-ford.osm', mimeType: 'text/xml', buffer })
  await expect(page.getByTestId('import-facts')).toHaveText('9 streets, 1 roundabout; 500 m by 360 m')
  await expectAccessible(page, 'streets to be brought in')
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.keyboard.press('3')
  await page.getByRole('tab', { name: /^Junctions/ }).click()
  await expect(register(page, 'Routes').getByRole('row', { name: /signals/ })).toHaveCount(1)
  await expect(register(page, 'Routes').getByRole('row', { name: /Weir Ring/ })).toHaveCount(1)
  await expect(page.getByRole('button', { name: 'No join is missing' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('tab', { name: /^Junctions 0/ })).toBeVisible()
})

test('lanes come from OpenDRIVE, and are written as that and as GeoJSON', async ({ page }) => {
  test.setTimeout(120_000)
  await newLevel(page)
  await page.keyboard.press('1')
  const buffer = readFileSync('docs/examples/osier-bends.xodr')
  const give = async (name: string, bytes: Buffer) => {
    await page.getByRole('button', { name: 'Import …' }).click()
    await page.getByTestId('import-file').setInputFiles({ name, mimeType: 'text/xml', buffer: bytes })
  }
  // One with a fault is refused with its line.
  await give('bent.xodr', Buffer.from(buffer.toString().replace('curvEnd="0.02"', 'curvEnd="wide"')))
  await expect(page.getByRole('dialog')).toContainText(/line 24: the curvEnd of a <spiral> is no number: wide/)
  await page.keyboard.press('Escape')
  await give('osier-bends.xodr', buffer)
  await expect(page.getByTestId('import-facts')).toHaveText('8 lanes, 6 joins; 176 m by 136 m')
  await expect(page.getByRole('dialog')).toContainText('lanes of the kinds shoulder were left out')
  await expect(page.getByLabel('at the heights of the file')).not.toBeChecked()
  await expectAccessible(page, 'lanes to be brought in')
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.keyboard.press('3')
  await page.getByRole('tab', { name: /^Junctions/ }).click()
  await expect(register(page, 'Routes').getByRole('row', { name: /Osier Corner.*signals/ })).toHaveCount(1)
  await page.getByRole('tab', { name: /^Roads/ }).click()
  await page.getByRole('button', { name: 'Write lanes' }).click()
  const written = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: 'GeoJSON' }).click()
  expect((await written).suggestedFilename()).toMatch(/^New level.*\.geojson$/)
  await expect(
    page.getByText('GeoJSON is written without who goes first at junctions, and signal plans.'),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Write lanes' }).click()
  const again = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: 'ASAM OpenDRIVE' }).click()
  expect(readFileSync(await (await again).path(), 'utf8')).toContain('name="Osier Road left 1"')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('tab', { name: /^Junctions 0/ })).toBeVisible()
})
