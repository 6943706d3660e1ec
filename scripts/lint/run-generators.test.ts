import { Linter } from 'eslint'
import path from 'node:path'
import { expect, it } from 'vitest'
// @ts-expect-error a plain script without types
import { runGenerators } from './run-generators.mjs'

const root = path.resolve(import.meta.dirname, '../..')
const linted = (code: string, filename = 'web/src/map/made-up.ts') =>
  new Linter({ cwd: root })
    .verify(
      code,
      { files: ['**/*.ts'], plugins: { own: { rules: { run: runGenerators } } }, rules: { 'own/run': 'error' } },
      path.join(root, filename),
    )
    .map((m) => m.message)

it('finds a generator that is called and not run', () => {
  expect(linted('function* slices() { yield 1 }\nslices()')).toEqual([expect.stringContaining('slices is a generator')])
})

it('finds one that comes from another file', () => {
  const from = "import { drawReach } from './layers/reach'\n"
  expect(linted(`${from}export const draw = () => { drawReach() }`)).toHaveLength(1)
  expect(linted(`${from}export function* draw() { yield* drawReach() }`)).toEqual([])
  expect(linted(`${from}export const draw = () => drawReach()`)).toEqual([])
})

it('lets other calls be', () => {
  expect(linted("import { drawFrame } from './layers/ground'\ndrawFrame()")).toEqual([])
  expect(linted("import { drawReach } from 'elsewhere'\ndrawReach()")).toEqual([])
})
