import { expect, test, type Page } from '@playwright/test'
import { boxesGlb, planPng, ridgePng, textFile, type MadeFile } from './files'
import { allKept, at, card, click, drag, drawer, newLevel, openLevel, register, stage } from './sheet'

const dialog = (page: Page) => page.getByRole('dialog')
const tab = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
const row = (page: Page, panel: string, name: string | RegExp) => register(page, panel).getByRole('row', { name })

async function choose(page: Page, file: MadeFile): Promise<void> {
  await page.getByRole('button', { name: 'Import …' }).click()
  await page.getByTestId('import-file').setInputFiles(file)
}
async function bringIn(page: Page, file: MadeFile, facts: RegExp): Promise<void> {
  await choose(page, file)
  await expect(page.getByTestId('import-facts')).toHaveText(facts)
  await dialog(page).getByRole('button', { name: 'Import', exact: true }).click()
  await expect(dialog(page)).toHaveCount(0)
}

test('a real place is brought in, traced and walked: from a mesh and a height map to a passage that helps', async ({
  page,
}) => {
  await newLevel(page)
  await page.keyboard.press('1')
  // Heights first, as large as the level already is; then the crane deck as a mesh on them.
  await choose(page, ridgePng(121, 81))
  await dialog(page).getByLabel('white is at, m').fill('4')
  await dialog(page).getByLabel('white is at, m').press('Enter')
  await expect(page.getByTestId('import-facts')).toHaveText(/^9,801 samples, 120 m × 80.0 m, from 0.00 to 4.00 m$/)
  await dialog(page).getByRole('button', { name: 'Import', exact: true }).click()
  await expect(dialog(page)).toHaveCount(0)
  await choose(page, await boxesGlb('Crane deck', [[0, 0, 12, 10, 3]]))
  await expect(page.getByTestId('import-facts')).toHaveText('12 triangles, 12.0 m × 10.0 m and 3.00 m high')
  await dialog(page).getByLabel('east, m', { exact: true }).fill('8')
  await dialog(page).getByLabel('north, m', { exact: true }).fill('40')
  await dialog(page).getByLabel('height, m', { exact: true }).fill('0')
  await dialog(page).getByLabel('height, m', { exact: true }).press('Enter')
  await dialog(page).getByRole('button', { name: 'Import', exact: true }).click()
  await expect(card(page)).toContainText('12 triangles')
  await allKept(page)

  // A plan to trace, placed by two points 24 m apart, and a road painted over it.
  await bringIn(page, planPng(240, 160), /^240 × 160 pixels$/)
  await card(page).getByRole('button', { name: 'Place by two points' }).click()
  await click(page, 30, 70)
  await click(page, 60, 70)
  await page.getByLabel('they are apart by, m').fill('15')
  await page.getByLabel('they are apart by, m').press('Enter')
  await page.getByRole('button', { name: 'Place the underlay' }).click()
  await expect(card(page).getByLabel('a pixel is, m')).toHaveValue('0.25')
  await page.keyboard.press('v')
  for (const [x, y] of [
    [70, 10],
    [110, 10],
    [110, 16],
    [70, 16],
  ] as const) {
    await click(page, x, y)
  }
  await page.keyboard.press('Enter')
  await expect(card(page)).toContainText('240 m²')

  // A profile of one's own, from a preset.
  await page.keyboard.press('2')
  await tab(page, 'Profiles')
  await page.getByRole('button', { name: 'Add a profile' }).click()
  await page.getByRole('menuitem', { name: /^Lamplighter/ }).click()
  await expect(card(page)).toContainText('drops down')
  await card(page).getByLabel('drops down, m').fill('2.5')
  await card(page).getByLabel('drops down, m').press('Enter')

  // Why it cannot reach the deck, and what would help.
  await tab(page, 'Islands')
  await expect(register(page, 'Reach').getByRole('combobox', { name: 'Profile' })).toHaveValue(/pf_/)
  await page.keyboard.press('p')
  await click(page, 40, 60)
  await click(page, 14, 36)
  await expect(card(page)).toContainText('nothing joins the two sides')
  await expect(card(page).getByRole('button', { name: /Add this ladder|Add this jump/ })).toBeVisible()

  // A drop from the deck would be a trap: a ladder is suggested. Once there is one, a drop is no trap any more.
  await page.keyboard.press('c')
  await tab(page, 'Passages')
  const suggest = page.getByRole('button', { name: 'Suggest passages' })
  const takeAll = page.getByRole('button', { name: /Take all/ })
  await suggest.click()
  await expect(register(page, 'Reach')).toContainText(/\d+ passages? could be/)
  await takeAll.click()
  await expect(row(page, 'Reach', /Ladder 1/)).toContainText('both ways')
  await expect(row(page, 'Reach', /Drop/)).toHaveCount(0)
  await suggest.click()
  await takeAll.click()
  await expect(row(page, 'Reach', /Drop 1/)).toContainText('one way')
  await tab(page, 'Islands')
  await page.keyboard.press('p')
  await page.keyboard.press('Escape')
  await click(page, 14, 36)
  await click(page, 40, 60)
  await expect(card(page)).toContainText('Through Drop')
  await page.keyboard.press('Escape')
  await click(page, 40, 60)
  await click(page, 14, 36)
  await expect(card(page)).toContainText(/Through (Ladder|Jump)/)
  await allKept(page)

  // All of it is there again after a reload: assets too.
  await page.reload()
  await expect(register(page, 'Reach')).toBeVisible()
  await page.keyboard.press('1')
  await tab(page, 'Meshes')
  await expect(row(page, 'Ground', /Crane deck/)).toContainText('12 triangles')
})

test('files that cannot be read are refused with the place of the fault, and nothing of them stays', async ({
  page,
}) => {
  await newLevel(page)
  await page.keyboard.press('1')
  const ring = [
    [0, 0],
    [10, 5],
    [10, 0],
    [0, 5],
    [0, 0],
  ]
  const crossed = JSON.stringify({ type: 'Polygon', coordinates: [ring] })
  const whole = await boxesGlb('Deck', [[0, 0, 4, 4, 1]])
  const cases: [MadeFile, RegExp][] = [
    [textFile('town.geojson', crossed), /feature 1: its ring crosses itself near 5\.0, 2\.5 m/],
    [textFile('deck.obj', 'v 0 0 0\nv 1 0 0\nf 1 2 3\n'), /line 3: the face names vertex 3, and 2 come before it/],
    [{ ...whole, buffer: whole.buffer.subarray(0, 300) }, /says \d+ bytes, but the file has 300: it is cut off/],
    [textFile('hills.asc', 'ncols 50000\nnrows 3\ncellsize 1\n1 2 3'), /ncols is 50000; 2 to 8192 are read/],
    [textFile('notes.txt', 'hello'), /files that can be read end in/],
  ]
  await page.getByRole('button', { name: 'Import …' }).click()
  for (const [file, message] of cases) {
    await page.getByTestId('import-file').setInputFiles(file)
    await expect(page.getByTestId('import-error')).toHaveText(message)
    await expect(dialog(page).getByRole('button', { name: 'Import', exact: true })).toBeDisabled()
  }
  await dialog(page).getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  await expect(register(page, 'Ground')).toContainText('0 solids')
})

test('GeoJSON becomes solids and a route, and one undo takes all of it back', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  const polygon = [
    [80, 10],
    [100, 10],
    [100, 24],
    [80, 24],
    [80, 10],
  ]
  const features = [
    { type: 'Feature', properties: { name: 'Mill', height: 6 }, geometry: { type: 'Polygon', coordinates: [polygon] } },
    {
      type: 'Feature',
      properties: { name: 'Lane' },
      geometry: {
        type: 'LineString',
        coordinates: [
          [10, 70],
          [50, 66],
          [110, 70],
        ],
      },
    },
  ]
  await bringIn(
    page,
    textFile('town.geojson', JSON.stringify({ type: 'FeatureCollection', features })),
    /^1 polygon, 1 line$/,
  )
  await expect(row(page, 'Ground', /Mill/)).toContainText('6 m high')
  await page.keyboard.press('3')
  await expect(row(page, 'Routes', /Lane/)).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(register(page, 'Routes')).not.toContainText('Lane')
  await page.keyboard.press('1')
  await expect(register(page, 'Ground')).toContainText('0 solids')
})

test('a grey picture of 16 bits can be heights or a plan to trace, as one says', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await choose(page, ridgePng(121, 81))
  await expect(page.getByTestId('import-facts')).toContainText('9,801 samples')
  await dialog(page).getByLabel('a plan to trace').check()
  await expect(page.getByTestId('import-facts')).toHaveText('121 × 81 pixels')
  await dialog(page).getByRole('button', { name: 'Import', exact: true }).click()
  await expect(card(page).getByRole('button', { name: 'Place by two points' })).toBeVisible()
})

test('heights are painted, and what then floats is settled after a look at who moves', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('3')
  await page.keyboard.press('d')
  await click(page, 30, 40)
  await click(page, 90, 40)
  await page.keyboard.press('Enter')
  await page.keyboard.press('1')
  await page.keyboard.press('h')
  await page.getByLabel('Lower').check()
  const p = await at(page, 90, 40)
  await page.mouse.move(p.x, p.y)
  await page.mouse.down()
  for (let k = 0; k < 10; k++) {
    await page.mouse.move(p.x + (k % 2), p.y)
    await page.waitForTimeout(60)
  }
  await page.mouse.up()
  await expect(drawer(page)).toContainText('Stop 2 of Patrol 1 hangs')
  await page.keyboard.press('Escape')
  await page.keyboard.press('g')
  const settle = page.getByRole('region', { name: 'Settle' })
  await expect(settle).toContainText('1 thing would move')
  await expect(settle).toContainText('Stop 2 of Patrol 1')
  await settle.getByRole('button', { name: 'Settle 1 thing' }).click()
  await expect(drawer(page)).not.toContainText('hangs')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(drawer(page)).not.toContainText('hangs')
})

test('why not here tells steep, low, close, shut and off limits apart', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await page.keyboard.press('2')
  await page.keyboard.press('w')
  // The tool writes on the map itself; what it would write is asked of the worker through the same store.
  const point = async (x: number, y: number) => {
    const p = await at(page, x, y)
    await page.mouse.move(p.x, p.y)
  }
  await point(107.8, 121.4)
  await expect(
    page.getByRole('toolbar', { name: 'Tools' }).getByRole('button', { name: /Why not here/ }),
  ).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByTestId('why')).toHaveText(/on top of Chandlery, which is not for walking on|inside Chandlery/)
  await point(72.7, 9.9)
  await expect(page.getByTestId('why')).toHaveText(/^water too deep \(3\.00 m of at most 0\.30 m\)$/)
})

test('the Overlook stands the sheet up, shares the choice and lifts what is chosen', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [50, 30], [70, 50])
  await expect(card(page)).toContainText('Its top is at 3.00 m')
  await page.keyboard.press('o')
  await expect(page.getByTestId('overlook')).toBeVisible()
  await expect(page.getByTestId('overlook')).toContainText('move it up and down; it is at 0.00 m')
  await page.keyboard.press('Shift+PageUp')
  await expect(card(page).getByLabel('underside at, m')).toHaveValue('1')
  // A click beside everything lets go of it; one in the middle, where it stands, takes it again.
  const box = (await page.getByTestId('overlook').boundingBox())!
  await page.mouse.click(box.x + 600, box.y + 180)
  await expect(card(page)).toHaveAccessibleName('Left to do')
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2 - 14)
  await expect(card(page).getByLabel('underside at, m')).toHaveValue('1')
  await page.getByRole('button', { name: 'On foot' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('o')
  await expect(page.getByTestId('overlook')).toBeHidden()
  // What is changed meanwhile is there when it is opened again, and it stands as one left it.
  await card(page).getByLabel('underside at, m').fill('4')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await page.keyboard.press('o')
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2 - 36)
  await expect(card(page).getByLabel('underside at, m')).toHaveValue('4')
})

test('a box is drawn by keys alone, and Escape breaks one off', async ({ page }) => {
  await newLevel(page, 'Ground')
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key)
  }
  await press('b', 'ArrowRight', ',', ...Array<string>(6).fill('ArrowRight'), ...Array<string>(4).fill('ArrowUp'))
  await press('Escape', '.')
  await expect(register(page, 'Ground')).toContainText('0 solids')
  await press(',', ...Array<string>(6).fill('ArrowLeft'), ...Array<string>(4).fill('ArrowDown'), '.')
  await expect(card(page).getByLabel('length, m')).toHaveValue('6')
  await expect(card(page).getByLabel('width, m')).toHaveValue('4')
})

test('solids are copied in a row, mirrored, aligned and moved together', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('y')
  await drag(page, [10, 10], [14, 14])
  await expect(card(page)).toContainText('cylinder')
  await card(page).getByRole('button', { name: 'Copies …' }).click()
  await dialog(page).getByLabel('each north, m').fill('6')
  await dialog(page).getByLabel('each north, m').press('Enter')
  await dialog(page).getByRole('button', { name: 'Make 3 copies' }).click()
  await expect(register(page, 'Ground')).toContainText('4 solids')
  await expect(card(page)).toContainText('3 things')
  await card(page).getByRole('button', { name: 'West sides' }).click()
  await card(page).getByRole('button', { name: 'Copies …' }).click()
  await dialog(page)
    .getByLabel(/mirrored at the east side/)
    .check()
  await dialog(page).getByRole('button', { name: 'Make the mirrored copy' }).click()
  await expect(register(page, 'Ground')).toContainText('7 solids')
  await page.keyboard.press('Delete')
  await expect(register(page, 'Ground')).toContainText('4 solids')
  // Stairs join the floors at both ends and say what their steps ask.
  await page.keyboard.press('t')
  await drag(page, [40, 20], [46, 24])
  await expect(card(page)).toContainText('Each step rises 17 cm')
})

test('what a finer reach map costs is said before it is chosen', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.getByRole('button', { name: 'The sheet …' }).click()
  const cell = dialog(page).getByLabel('Width of a column')
  await expect(cell.locator('option', { hasText: '0.1 m:' })).toHaveText(
    /960 thousand columns, under a second anew, 25 MB/,
  )
  await cell.selectOption('0.1')
  await dialog(page).getByLabel('there is water').check()
  await dialog(page).getByRole('button', { name: 'Done' }).click()
  await page.keyboard.press('2')
  await expect(row(page, 'Reach', /Main island/)).toContainText('9,')
})

/** All that is drawn on the map, red, green, blue and clearness of each point. */
const inkOf = (page: Page) =>
  page.getByTestId('map').evaluateHandle((map) => {
    const canvases = [...map.querySelectorAll('canvas')]
    const [{ width, height }] = canvases
    const paper = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!
    for (const canvas of canvases) paper.drawImage(canvas, 0, 0)
    return paper.getImageData(0, 0, width, height).data
  })
/** How many points of the map are plainly other than they were. */
const changedSince = async (page: Page, before: Awaited<ReturnType<typeof inkOf>>): Promise<number> =>
  before.evaluate(
    (was, is) => {
      let other = 0
      for (let k = 0; k < was.length; k += 4) other += Number(Math.abs(was[k] - is[k]) > 12)
      return other
    },
    await inkOf(page),
  )

test('every layer of the legend is drawn on the map', async ({ page }) => {
  await openLevel(page, 'Lanternquay by night')
  await expect(stage(page, 'Reach')).toHaveAccessibleName(/nothing wrong/)
  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Legend' }).click()
  const boxes = page.getByRole('region', { name: 'Legend' }).getByRole('checkbox')
  const names = await page.getByRole('region', { name: 'Legend' }).locator('label:has(input)').allTextContents()
  // What this level has nothing of, and what is no layer.
  const WINDOWS = 'Watch spots and sneak lines'
  const without = [
    'Underlays',
    'Reach areas',
    'Roads, as wide as their lanes',
    'Junctions, with who waits',
    'Counters, and who waits in a ring',
    'Findings',
    'Agents, with a tail',
    'snap to every',
    WINDOWS,
  ]
  // It is drawn in slices: all of it is there when nothing comes any more.
  let all = await inkOf(page)
  const asItIs = async () => {
    const changed = await changedSince(page, all)
    all = await inkOf(page)
    return changed
  }
  await expect.poll(asItIs, { intervals: [500] }).toBe(0)
  const isDrawn = async (k: number) => {
    await boxes.nth(k).uncheck()
    await expect.poll(() => changedSince(page, all), `${names[k]} is seen`).toBeGreaterThan(100)
    await boxes.nth(k).check()
    await expect.poll(() => changedSince(page, all), `${names[k]} is seen again`).toBeLessThan(50)
  }
  for (const [k, name] of names.entries()) if (!without.includes(name.trim())) await isDrawn(k)
  // What is asked of a rehearsal is drawn where one rehearses.
  await page.keyboard.press('5')
  await expect.poll(asItIs, { intervals: [500] }).toBe(0)
  await isDrawn(names.findIndex((name) => name.trim() === WINDOWS))
})
