import { readLevelText, writeLevelText } from '@tidytrail/core/level'
import { expect, it } from 'vitest'
import { DEMO_LEVELS } from '.'
import { wideSallow } from './wide-sallow'

it.each(DEMO_LEVELS.filter((d) => d.onShelf))('$name is made the same each time and survives its file', ({ make }) => {
  const level = make()
  expect(readLevelText(writeLevelText(level))).toEqual(level)
  expect(make()).toEqual(level)
})

it('Wide Sallow is valid at a small size', () => {
  const level = wideSallow({ sideM: 300, blocks: 36, routes: 10, stopsPerRoute: 6 })
  expect(Object.keys(level.waypoints)).toHaveLength(60)
  expect(readLevelText(writeLevelText(level))).toEqual(level)
})
