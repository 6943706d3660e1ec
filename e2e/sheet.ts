import { expect, type Locator, type Page } from '@playwright/test'

interface Spot {
  readonly x: number
  readonly y: number
}

/** Where a place of the level is in the window as the map is now, whatever may lie over it. */
export async function at(page: Page, x: number, y: number): Promise<Spot> {
  const map = page.getByTestId('map')
  await atRest(page)
  const [vx, vy, scale] = (await map.getAttribute('data-view'))!.split(' ').map(Number)
  const box = (await map.boundingBox())!
  return { x: box.x + box.width / 2 + (x - vx) * scale, y: box.y + box.height / 2 - (y - vy) * scale }
}

/** Waits until the map is where it will stay: panels that come and go may move it a frame later. */
const atRest = (page: Page) =>
  page.evaluate(async () => {
    const view = () => document.querySelector('[data-testid=map]')?.getAttribute('data-view')
    const frame = () => new Promise((done) => requestAnimationFrame(done))
    for (let before; before !== view();) {
      before = view()
      for (let k = 0; k < 3; k++) await frame()
    }
  })

/** Is the map itself what one sees there? */
const isFree = (page: Page, { x, y }: Spot) =>
  page.evaluate(([px, py]) => !!document.elementFromPoint(px, py)?.closest('[data-testid=map]'), [x, y])

/** Where places are once the map has been moved so that no panel covers any of them. */
async function seen(page: Page, ...places: readonly [number, number][]): Promise<Spot[]> {
  const now = () => Promise.all(places.map(([x, y]) => at(page, x, y)))
  const spots = await now()
  if ((await Promise.all(spots.map((s) => isFree(page, s)))).every(Boolean)) return spots
  // To the middle between the panels, as one would drag it there.
  const mean = (of: (s: Spot) => number) => spots.reduce((sum, s) => sum + of(s), 0) / spots.length
  const [dx, dy] = [617 - mean((s) => s.x), 400 - mean((s) => s.y)]
  await page.mouse.move(617 - dx / 2, 400 - dy / 2)
  await page.mouse.down({ button: 'middle' })
  await page.mouse.move(617 + dx / 2, 400 + dy / 2, { steps: 3 })
  await page.mouse.up({ button: 'middle' })
  return now()
}

export async function click(page: Page, x: number, y: number): Promise<void> {
  const [p] = await seen(page, [x, y])
  await page.mouse.move(p.x - 3, p.y)
  await page.mouse.click(p.x, p.y)
}

export async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const [a, b] = await seen(page, from, to)
  await page.mouse.move(a.x, a.y)
  await page.mouse.down()
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 4 })
  await page.mouse.move(b.x, b.y, { steps: 4 })
  await page.mouse.up()
}

/** What a test may expect in the console: it asked for it. */
const EXPECTED = [
  /Failed to load resource: net::ERR_(INTERNET_DISCONNECTED|CONNECTION_RESET|FAILED)/,
  /status of (404|409|412|413|415|422|507)/,
]

/** Fails the test when the page throws, or says anything of an error or a warning in the console. */
export function watchForFaults(page: Page): void {
  page.on('pageerror', (error) => {
    throw error
  })
  page.on('console', (message) => {
    const text = message.text()
    if (!['error', 'warning'].includes(message.type()) || EXPECTED.some((e) => e.test(text))) return
    // Software rendering has its own opinion of how fast it is.
    if (/GPU stall|WebGL/.test(text)) return
    throw new Error(`in the console: ${text}`)
  })
}

/** Makes a level from the shelf and waits until it is open, at the ground, where new ones are; most go on to their routes. */
export async function newLevel(page: Page, at: 'Ground' | 'Routes' = 'Routes'): Promise<void> {
  watchForFaults(page)
  await page.goto('/')
  await page.getByRole('button', { name: 'New level' }).click()
  await expect(page.getByTestId('kept')).toContainText('kept')
  await expect(stage(page, 'Ground')).toHaveAttribute('aria-current', 'step')
  await stage(page, at).click()
}

export async function openLevel(page: Page, name: string): Promise<void> {
  watchForFaults(page)
  await page.goto('/')
  await page.getByRole('link', { name, exact: true }).click()
  await expect(page.getByTestId('kept')).toContainText('kept')
}

/** Loads the page anew and waits until its level is open: what is typed before is heard by nobody. */
export async function reloaded(page: Page): Promise<void> {
  await page.reload()
  await expect(page.getByTestId('kept')).toContainText('kept')
}

export const stage = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: new RegExp(`^${name}`) })
export const card = (page: Page): Locator => page.getByRole('region', { name: /Field card|Left to do/ })
export const drawer = (page: Page): Locator => page.getByRole('region', { name: 'Drawer' })
export const register = (page: Page, name: string): Locator => page.getByRole('region', { name, exact: true })

/** Draws a patrol through places, from the Routes stage, and ends it with Enter. */
export async function drawPatrol(page: Page, places: [number, number][]): Promise<void> {
  await page.keyboard.press('3')
  await page.keyboard.press('d')
  for (const [x, y] of places) await click(page, x, y)
  await page.keyboard.press('Enter')
}

/** A new level with a patrol from left to right, and somebody at its left end who follows it. */
export async function patrolled(page: Page): Promise<void> {
  await newLevel(page)
  await drawPatrol(page, [
    [30, 40],
    [90, 40],
  ])
  await page.keyboard.press('4')
  await register(page, 'Cast').getByRole('button', { name: 'Place a spawner' }).click()
  await click(page, 28, 40)
  await card(page).getByLabel('follows').selectOption({ index: 1 })
}

/** Waits until everything has reached the server. */
export async function allKept(page: Page): Promise<void> {
  await expect(page.getByTestId('kept')).toContainText(/(^|aside)\s*kept/)
}

/** Draws a road through places, from the Routes stage. */
export async function drawRoad(page: Page, places: [number, number][]): Promise<void> {
  await page.keyboard.press('Escape')
  await page.keyboard.press('q')
  for (const [x, y] of places) await click(page, x, y)
  await page.keyboard.press('Enter')
}
