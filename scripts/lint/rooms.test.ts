import { expect, it } from 'vitest'
// @ts-expect-error a plain script without types
import { refusal } from './rooms.mjs'

const why = (file: string, specifier: string) => refusal('/r', `/r/${file}`, specifier) as string | undefined

it('lets each room import those before it and no other', () => {
  expect(why('core/reach/map.ts', '@tidytrail/core/ground')).toBeUndefined()
  expect(why('core/ground/floors.ts', '@tidytrail/core/reach')).toBe('core/ground may not import core/reach')
  expect(why('core/formats/a.ts', '@tidytrail/core/reach')).toContain('may not')
  expect(why('web/src/main.ts', '@tidytrail/server')).toContain('may not')
  expect(why('server/src/app.ts', '@tidytrail/core/checks')).toBeUndefined()
  expect(why('core/reach/path.ts', '@tidytrail/core/testing')).toContain('may not')
  expect(why('core/reach/path.test.ts', '@tidytrail/core/testing')).toBeUndefined()
})

it('lets nobody past a public face, by name or by path', () => {
  expect(why('web/src/main.ts', '@tidytrail/core/reach/build')).toContain('past the public face')
  expect(why('core/reach/map.ts', '../ground/floors')).toContain('relative path')
  expect(why('core/reach/map.ts', './tile')).toBeUndefined()
})

it('keeps the core free of Node', () => {
  expect(why('core/level/read.ts', 'node:fs')).toContain('no Node built-ins')
  expect(why('server/src/app.ts', 'node:fs')).toBeUndefined()
})
