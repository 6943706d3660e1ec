import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page } from '@playwright/test'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

interface Fault {
  readonly id: string
  readonly help: string
  readonly nodes: readonly { readonly html: string; readonly target: readonly unknown[] }[]
}

/** What axe-core finds wrong with the page as it is: one line a fault, with the places. */
export async function faults(page: Page): Promise<string[]> {
  await page.evaluate(AXE)
  const found = await page.evaluate(async () => {
    const { axe } = globalThis as unknown as { axe: { run(): Promise<{ violations: Fault[] }> } }
    return (await axe.run()).violations.map(({ id, help, nodes }) => ({
      id,
      help,
      nodes: nodes.map(({ html, target }) => ({ html, target })),
    }))
  })
  return found.map(
    ({ id, help, nodes }) =>
      `${id}: ${help}\n${nodes
        .slice(0, 4)
        .map((n) => `    ${n.target.join(' ')}\n      ${n.html.slice(0, 160)}`)
        .join('\n')}`,
  )
}

/** Fails when axe-core finds anything wrong with the page as it is. @param what the screen, for the message */
export async function expectAccessible(page: Page, what: string): Promise<void> {
  expect(await faults(page), what).toEqual([])
}
