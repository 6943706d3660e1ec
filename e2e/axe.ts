import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page } from '@playwright/test'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

interface Fault {
  readonly id: string
  readonly help: string
  readonly nodes: readonly { readonly html: string; readonly target: readonly unknown[] }[]
}

/**
 * What axe-core finds wrong with the page as it is: one line a fault, with the places.
 * @param only the rules it goes by; all of them where none are named
 */
export async function faults(page: Page, ...only: string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in globalThis))) await page.evaluate(AXE)
  const found = await page.evaluate(async (rules) => {
    const { axe } = globalThis as unknown as { axe: { run(by: object): Promise<{ violations: Fault[] }> } }
    // Only what is wrong is worked out in full.
    const by = { resultTypes: ['violations'], preload: false, ...(rules.length > 0 ? { runOnly: rules } : {}) }
    return (await axe.run(by)).violations.map(({ id, help, nodes }) => ({
      id,
      help,
      nodes: nodes.map(({ html, target }) => ({ html, target })),
    }))
  }, only)
  return found.map(
    ({ id, help, nodes }) =>
      `${id}: ${help}\n${nodes
        .slice(0, 4)
        .map((n) => `    ${n.target.join(' ')}\n      ${n.html.slice(0, 160)}`)
        .join('\n')}`,
  )
}

/** Fails when axe-core finds anything wrong with the page as it is. @param what the screen, for the message */
export async function expectAccessible(page: Page, what: string, ...only: string[]): Promise<void> {
  expect(await faults(page, ...only), what).toEqual([])
}
