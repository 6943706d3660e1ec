import { levelSchema, WARDEN, type Level } from '@tidytrail/core/level'
import { recordedOf, Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { travelLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { changed, Examined, familiesOf, longestOf, widen, type WidenProgress, type Wish } from '.'

const GUARD = { ...WARDEN, sightM: 14 }
const level = levelSchema.parse({
  ...travelLevel(GUARD, [[10, 20], [40, 20]] as const, {
    route: { travel: 'there-and-back' },
    stop: { 0: { pause: { minS: 3, maxS: 3 }, facingRad: Math.PI }, 1: { pause: { minS: 3, maxS: 3 }, facingRad: 0 } },
  }),
  watchSpots: { ws_a: { name: 'Door', at: [25, 20, 0] } },
}) // prettier-ignore
const SECONDS = 90
// Nothing of what is changed is about where one may go, so the reach is worked out once.
const survey = new Survey()
survey.update(level)
const examined = (of: Level) => {
  const run = new Run(of, 1, survey)
  run.runTo(SECONDS)
  return new Examined(recordedOf(run), run.verdicts())
}
const wish = (wantedS: number): Wish => ({ in: 'watchSpots', id: 'ws_a', wantedS })

function widened(of: Level, about: Wish): WidenProgress {
  const search = widen(examined(of), about, examined)
  for (;;) {
    const step = search.next()
    if (step.done) return step.value
  }
}

describe('widening a window', () => {
  const before = examined(level)
  const nowS = longestOf(before, wish(0))

  it('offers of each pause the same as trying every pause by whole seconds', () => {
    const wanted = wish(nowS + 4)
    const { found } = widened(level, wanted)
    const pauses = familiesOf(before, wanted).filter((f) => f.kind === 'pause')
    expect(pauses).toHaveLength(2)
    for (const family of pauses) {
      const first = family.values.find(
        (s) => longestOf(examined(changed(level, family.change(s))), wanted) >= wanted.wantedS - 1e-6,
      )
      const offered = found.find((w) => w.change.label === family.change(first!).label)
      expect(offered?.value).toBe(first)
    }
  })

  it('offers only what gives the window when it is done, and tells what else is other', () => {
    const wanted = wish(nowS + 3)
    const { found } = widened(level, wanted)
    expect(found.map((w) => w.kind)).toEqual(expect.arrayContaining(['pause', 'pace']))
    for (const { change, longestS } of found) {
      const after = examined(changed(level, change))
      expect(longestOf(after, wanted)).toBeCloseTo(longestS, 6)
      expect(longestS).toBeGreaterThanOrEqual(wanted.wantedS - 1e-6)
    }
    expect(found.find((w) => w.kind === 'pace')!.else.map((e) => e.name)).toContain('Door: longest window')
  })

  it('says what is the most that can be had where nothing gives as much', () => {
    const { found, most } = widened(level, wish(1000))
    expect(found).toEqual([])
    expect(most.longestS).toBeGreaterThan(nowS)
    expect(most.longestS).toBeLessThan(SECONDS)
    expect(most.label).not.toBe('as it is')
  })
})
