import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { blankLevel } from './blank'
import { hasBareGround, layGround, READY_GROUNDS } from './ready-grounds'
import { applyPatch, levelSchema, type Level } from '.'

const laidOn = (level: Level, name: string) => {
  const ready = READY_GROUNDS.find((g) => g.name === name)!
  const laid = ready.make(level.settings.extent)
  return layGround.apply(level, { name, laid, ids: laid.solids.map((_, k) => `sd_${k}`) })
}

describe('ready ground', () => {
  it.each(READY_GROUNDS.map((g) => g.name))('%s fits levels of every size, and is taken back in one step', (name) => {
    const size = fc.double({ min: 8, max: 1900, noNaN: true })
    fc.assert(
      fc.property(size, size, (wide, deep) => {
        const blank = blankLevel('Somewhere', wide, deep)
        const { level, inverse } = laidOn(blank, name)
        expect(levelSchema.safeParse(level).success).toBe(true)
        expect(hasBareGround(level)).toBe(false)
        for (const solid of Object.values(level.solids)) {
          if (solid.shape !== 'box') continue
          expect(solid.at[0] - solid.sizeX / 2).toBeGreaterThan(0)
          expect(solid.at[0] + solid.sizeX / 2).toBeLessThan(wide)
          expect(solid.at[1] - solid.sizeY / 2).toBeGreaterThan(0)
          expect(solid.at[1] + solid.sizeY / 2).toBeLessThan(deep)
        }
        const { heights } = level.ground
        // Heights lie over all of the level, and are not more than are drawn quickly.
        if (heights) {
          expect(heights.originX + (heights.rows[0].length - 1) * heights.spacingM).toBeGreaterThanOrEqual(wide - 1e-6)
          expect(heights.originY + (heights.rows.length - 1) * heights.spacingM).toBeGreaterThanOrEqual(deep - 1e-6)
          expect(heights.rows.length * heights.rows[0].length).toBeLessThan(20_000)
        }
        expect(applyPatch(level, inverse)).toEqual(blank)
      }),
      { numRuns: 40 },
    )
  })

  it('is offered only where there is none', () => {
    const blank = blankLevel('Somewhere')
    expect(hasBareGround(blank)).toBe(true)
    expect(hasBareGround({ ...blank, covers: { cv_a: {} as never } })).toBe(false)
  })
})
