import { sketchSchema } from '@tidytrail/contract'
import { blankLevel } from '@tidytrail/core/level'
import { DEMO_LEVELS } from '@tidytrail/demo'
import { describe, expect, it } from 'vitest'
import { sketchOf } from '../src/store/thumbnail'

describe('the sketch the shelf draws', () => {
  it('holds heights, solids and routes of a level, coarsely', () => {
    const level = DEMO_LEVELS[0].make()
    const sketch = sketchSchema.parse(sketchOf(level))
    expect(sketch.solids).toHaveLength(Object.keys(level.solids).length)
    expect(sketch.routes.map((r) => r.closed)).toEqual(Object.values(level.routes).map((r) => r.travel === 'round'))
    expect(sketch.heights[0]).toHaveLength(29)
    expect(Math.min(...sketch.heights.flat())).toBe(-3)
  })

  it('stays small for a level of any size, and is empty for an empty one', () => {
    const wide = DEMO_LEVELS.find((d) => d.slug === 'wide-sallow')!.make()
    expect(JSON.stringify(sketchOf(wide)).length).toBeLessThan(200_000)
    expect(sketchOf(blankLevel('Empty'))).toMatchObject({ heights: [], solids: [], routes: [] })
  })
})
