import { expect, test } from '@playwright/test'
import { at, card, drag, drawPatrol, drawer, newLevel, openLevel, patrolled, register, stage } from './sheet'

test('keys stay with a dialog, a reason and a name, and go back to the map after them', async ({ page }) => {
  await patrolled(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [50, 60], [60, 70])
  await page.keyboard.press('Escape')
  await register(page, 'Ground')
    .getByRole('row', { name: /Block 1/ })
    .click()

  await card(page).getByRole('button', { name: 'Copies …' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(1)
  await page.getByRole('dialog').press('Delete')
  await page.getByRole('dialog').press('5')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(register(page, 'Ground').getByRole('row', { name: /Block 1/ })).toBeVisible()
  await expect(stage(page, 'Ground')).toHaveAttribute('aria-current', 'step')

  // A name that is typed is none of the map's business.
  await register(page, 'Ground')
    .getByRole('row', { name: /Block 1/ })
    .dblclick()
  await page.keyboard.type('Depot 53')
  await page.keyboard.press('Enter')
  await expect(register(page, 'Ground').getByRole('row', { name: /Depot 53/ })).toBeVisible()
  await expect(stage(page, 'Ground')).toHaveAttribute('aria-current', 'step')
  // And after it the keys are the map's again.
  await page.keyboard.press('3')
  await expect(stage(page, 'Routes')).toHaveAttribute('aria-current', 'step')
})

test('Waive asks for its reason at once, and what is typed is the reason', async ({ page }) => {
  await newLevel(page)
  await drawPatrol(page, [
    [30, 40],
    [90, 40],
  ])
  await register(page, 'Routes')
    .getByRole('row', { name: /Patrol 1/ })
    .click()
  await stage(page, 'Cast').click()
  await drawer(page)
    .getByRole('row', { name: /Nobody follows/ })
    .click()
  await card(page).getByRole('button', { name: 'Waive …' }).first().click()
  await page.keyboard.type('for 5 days')
  await expect(card(page).getByLabel('Reason')).toHaveValue('for 5 days')
  await expect(stage(page, 'Cast')).toHaveAttribute('aria-current', 'step')
  await page.keyboard.press('Enter')
  await expect(drawer(page)).not.toContainText('Nobody follows')
})

test('Find knows every kind of thing and command, and Escape closes it at once', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  const find = page.getByRole('dialog').getByRole('combobox')
  for (const [text, name] of [
    ['Tide-cart', /Tide-cart/],
    ['Drying', /Drying green/],
    ['import', /Import/],
    ['overlook', /Overlook/],
    ['legend', /Legend/],
  ] as const) {
    await page.keyboard.press('Control+k')
    await find.fill(text)
    await expect(page.getByRole('option', { name }).first(), text).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  // Nothing that was marked in the list has been done.
  await expect(page.getByRole('region', { name: 'Legend' })).toHaveCount(0)
  await expect(page.getByTestId('overlook')).toHaveCount(0)
})

test('each list has its own search, and hints go once they have taught', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await stage(page, 'Routes').click()
  await page.getByPlaceholder('Find a route').fill('pier')
  await page.getByRole('tab', { name: /^Waypoints/ }).click()
  await expect(page.getByPlaceholder(/^Find/).first()).toHaveValue('')
  await page.getByTestId('map').click({ position: { x: 620, y: 500 } })
  const hint = page.getByText('Click two places', { exact: false })
  await page.keyboard.press('2')
  for (let k = 0; k < 4; k++) {
    await page.keyboard.press('p')
    await expect(hint).toBeVisible()
    await page.keyboard.press('Escape')
  }
  await page.keyboard.press('p')
  await expect(hint).toHaveCount(0)
  await expect(page.getByRole('button', { name: /^Path probe/ })).toHaveAttribute('title', /Click two places/)
})

test('the circle of the heights brush lies round the pointer', async ({ page }) => {
  await newLevel(page, 'Ground')
  await page.keyboard.press('h')
  const p = await at(page, 60, 40)
  await page.mouse.move(p.x - 5, p.y)
  await page.mouse.move(p.x, p.y)
  // The canvas of what follows the hand has nothing else on it.
  const middle = () =>
    page.getByTestId('map').evaluate((map) => {
      const canvas = map.querySelectorAll('canvas')[2]
      const { width, height } = canvas
      const paper = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!
      paper.drawImage(canvas, 0, 0)
      const { data } = paper.getImageData(0, 0, width, height)
      const inked = []
      for (let k = 3; k < data.length; k += 4) if (data[k] >= 40) inked.push((k - 3) / 4)
      const [x0, x1] = inked.reduce(([a, b], i) => [Math.min(a, i % width), Math.max(b, i % width)], [width, -1])
      // As high as its middle is where it is widest: its figure stands below it.
      const rows = inked.filter((i) => i % width === x0).map((i) => Math.floor(i / width))
      const box = canvas.getBoundingClientRect()
      const ratio = width / box.width
      const y = rows.reduce((sum, row) => sum + row, 0) / rows.length
      return { x: box.left + (x0 + x1) / 2 / ratio, y: box.top + y / ratio, wide: x1 - x0 }
    })
  await expect.poll(async () => (await middle()).wide).toBeGreaterThan(10)
  const seen = await middle()
  expect(Math.abs(seen.x - p.x)).toBeLessThan(2.5)
  expect(Math.abs(seen.y - p.y)).toBeLessThan(2.5)
})

test('Ctrl and A chooses things, whatever was pressed before, and not the words of the page', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await stage(page, 'Cast').click()
  await page.getByRole('button', { name: 'Legend' }).click()
  await page.getByRole('button', { name: 'Legend' }).click()
  await page.keyboard.press('Control+a')
  await expect(card(page)).toContainText(/\d\d things/)
  expect(await page.evaluate(() => String(getSelection()))).toBe('')
})

test('things are pointed at, boxed in and looped round by keys alone', async ({ page }) => {
  await newLevel(page, 'Ground')
  const press = async (key: string, times = 1) => {
    for (let k = 0; k < times; k++) await page.keyboard.press(key)
  }
  await page.keyboard.press('b')
  await drag(page, [55, 35], [65, 45])
  await drag(page, [80, 35], [84, 45])
  await press('Escape', 2)
  await expect(card(page).getByLabel('length, m')).toHaveCount(0)

  // In the middle of the level lies the first block.
  await press('.')
  await press('.')
  await expect(card(page).getByLabel('length, m')).toHaveValue('10')
  // A box begun beside it, drawn over both.
  await press('ArrowDown', 14)
  await press('ArrowLeft', 16)
  await press('Shift+,')
  await press('ArrowRight', 46)
  await press('ArrowUp', 28)
  await press(',')
  await expect(card(page)).toContainText('2 things')
  // Escape puts the crosshair away and then lets go. A loop round the first.
  await press('Escape', 2)
  await expect(card(page)).not.toContainText('2 things')
  await press('.')
  await press('ArrowRight', 12)
  await press('ArrowUp', 14)
  await press('Alt+,')
  await press('ArrowLeft', 26)
  await press('ArrowDown', 28)
  await press('ArrowRight', 26)
  await press('ArrowUp', 24)
  await press(',')
  await expect(card(page).getByLabel('length, m')).toHaveValue('10')
  // Without the crosshair the arrows move what is chosen.
  await press('Escape')
  const east = card(page).getByLabel('east, m')
  const before = Number(await east.inputValue())
  await press('ArrowRight')
  await expect(east).toHaveValue(String(before + 1))
  // On another stage it is away too.
  await press('.')
  await press('2')
  await press('1')
  await press('ArrowRight')
  await expect(east).toHaveValue(String(before + 2))
})
