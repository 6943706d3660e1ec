import { expect, test } from '@playwright/test'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { boxesInParts } from './files'
import { allKept, card, drag, drawer, drawPatrol, newLevel, register, stage } from './sheet'

test('a folder with a mesh in parts is imported, unpacked in the browser, and walked on', async ({ page }) => {
  const folder = await mkdtemp(path.join(tmpdir(), 'quay-'))
  try {
    // A step of 0.3 m with a slab of 0.6 m on it: two steps up for a warden.
    const parts = await boxesInParts('Slab', [
      [0, 0, 20, 12, 0.3],
      [4, 3, 16, 9, 0.6],
    ])
    for (const { name, buffer } of parts) await writeFile(path.join(folder, name), buffer)
    await newLevel(page)
    await page.keyboard.press('1')
    await page.getByRole('button', { name: 'Import …' }).click()
    await page.getByLabel('or a folder').setInputFiles(folder)
    await expect(page.getByTestId('import-facts')).toHaveText('24 triangles, 20.0 m × 12.0 m and 0.60 m high')
    await expect(page.getByRole('dialog')).toContainText('Slab.gltf, glTF mesh, with 2 other files')
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(card(page)).toContainText('24 triangles')
    await drawPatrol(page, [
      [20, 40],
      [60, 40],
    ])
    await expect(register(page, 'Routes').getByRole('row', { name: /Patrol 1/ })).toBeVisible()
    await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
    await allKept(page)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
})

test('files dropped on the sheet are imported together, and what is missing is named', async ({ page }) => {
  const [gltf, bin] = await boxesInParts('Slab', [[0, 0, 20, 12, 0.3]])
  await newLevel(page)
  const drop = async (files: { name: string; buffer: Buffer }[]) => {
    const data = await page.evaluateHandle(
      (list) => {
        const made = new DataTransfer()
        for (const { name, bytes } of list) made.items.add(new File([new Uint8Array(bytes)], name))
        return made
      },
      files.map(({ name, buffer }) => ({ name, bytes: [...buffer] })),
    )
    await page.dispatchEvent('main canvas', 'drop', { dataTransfer: data })
  }
  await drop([gltf])
  await expect(page.getByTestId('import-error')).toHaveText(
    'buffers[0]: its data lies in another file, Slab.bin: give the two together, or their folder, or a zip of it',
  )
  await page.getByRole('button', { name: 'Cancel' }).click()
  await drop([bin, gltf])
  await expect(page.getByTestId('import-facts')).toHaveText('12 triangles, 20.0 m × 12.0 m and 0.30 m high')
})

test('a stop on a ledge that is too high says what would help, and the way chosen is built', async ({ page }) => {
  await newLevel(page)
  await page.keyboard.press('1')
  await page.keyboard.press('b')
  await drag(page, [70, 30], [90, 50])
  await card(page).getByLabel('height, m', { exact: true }).fill('1')
  await card(page).getByLabel('height, m', { exact: true }).press('Enter')
  await card(page).getByLabel('agents may stand on top').check()
  await drawPatrol(page, [
    [20, 40],
    [80, 40],
  ])
  await expect(drawer(page)).toContainText('up onto Block 1 it is 1.00 m, and Warden steps 0.40 m')
  await card(page).getByRole('button', { name: 'Other ways …' }).first().click()
  await expect(card(page).getByRole('button', { name: 'Put a ladder of 1.00 m there' })).toBeVisible()
  await expect(card(page).getByRole('button', { name: 'Let Warden step 1.00 m' })).toBeVisible()
  await expect(card(page).getByRole('button', { name: 'Lower Block 1 to 0.40 m' })).toBeVisible()
  await card(page)
    .getByRole('button', { name: /^Lay a ramp of/ })
    .click()
  await expect(stage(page, 'Routes')).toHaveAccessibleName('Routes, nothing wrong')
  await page.keyboard.press('1')
  await expect(register(page, 'Ground').getByRole('row', { name: /Ramp to Block 1/ })).toBeVisible()
})

test('a new level opens at its ground and offers what comes first, and ready ground has nothing to mend', async ({
  page,
}) => {
  await newLevel(page, 'Ground')
  await expect(stage(page, 'Ground')).toHaveAttribute('aria-current', 'step')
  await expect(card(page)).toContainText('The sheet is flat and 120 × 80 m large')
  for (const [name, solids] of [
    ['Walled yard', 11],
    ['Quayside', 3],
    ['Hills', 0],
  ] as const) {
    await card(page)
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .click()
    await expect(card(page)).toContainText('Nothing to mend here', { timeout: 30_000 })
    await expect(register(page, 'Ground').getByRole('tab', { name: /^Solids/ })).toHaveText(`Solids ${solids}`)
    // All of it was one step.
    await page.keyboard.press('Control+z')
    await expect(card(page)).toContainText('Or begin with ground that is ready')
  }
  await card(page).getByRole('button', { name: 'Import ground …' }).click()
  await expect(page.getByRole('heading', { name: /Import/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await card(page).getByRole('button', { name: 'Change its size' }).click()
  await page.getByRole('dialog').getByLabel('east, m').fill('60')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(card(page)).toContainText('60 × 80 m large')
  await card(page).getByRole('button', { name: 'Draw the first solid' }).click()
  await expect(page.getByRole('toolbar', { name: 'Tools' }).getByRole('button', { name: /^Box/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
})
