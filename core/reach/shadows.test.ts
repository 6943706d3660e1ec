import { describe, expect, it } from 'vitest'
import { box, chance, prisms, sceneLevel, strewnObstacles } from '@tidytrail/core/testing'
import { buildReach, reachSource } from '.'
import { Shadows } from './shadows'
import { StraightWalker } from './sight'

/** How many of random walks from each of some places are told to be hidden, and which of these can be walked after all. */
function hiddenIn(level: ReturnType<typeof sceneLevel>, sideM: number, seed: number) {
  const map = buildReach(reachSource(level, 'pf_warden'))
  const walker = new StraightWalker(map)
  const shadows = new Shadows(map, walker)
  const next = chance(seed)
  const wrong: string[] = []
  let hidden = 0
  for (let from = 0; from < 30; from++) {
    const [x, y] = [next() * sideM, next() * sideM]
    const start = map.reachedAt(x, y, 0)
    if (!start || !map.isFree(start, x, y)) continue
    shadows.standAt(x, y)
    for (let k = 0; k < 60; k++) {
      const [tx, ty] = [next() * sideM, next() * sideM]
      const hides = shadows.hides(tx, ty)
      const walked = walker.walk(start, x, y, tx, ty)
      if (!walked) shadows.remember()
      if (!hides) continue
      hidden++
      if (walked) wrong.push(`${x}, ${y} → ${tx}, ${ty}`)
    }
  }
  return { hidden, wrong }
}

describe('what hides one place from another', () => {
  it.each([1, 2, 3])('is told of no place that can be walked to straight, among solids (%i)', (seed) => {
    const level = sceneLevel(60, 60, prisms(strewnObstacles(60, 20, seed)))
    const { hidden, wrong } = hiddenIn(level, 60, seed)
    expect(wrong).toEqual([])
    expect(hidden).toBeGreaterThan(300)
  })

  it('is not told where there are floors at several heights, of which only some are barred', () => {
    const ramp = {
      shape: 'ramp',
      name: '',
      at: [20, 20],
      sizeX: 12,
      sizeY: 4,
      turnRad: 0,
      baseM: 0,
      heightM: 3,
      walkable: true,
    }
    const level = sceneLevel(60, 60, { sd_a: ramp as never, sd_b: box(26, 18, 40, 22, 3, { walkable: true }) })
    const { wrong } = hiddenIn(level, 60, 9)
    expect(wrong).toEqual([])
  })
})
