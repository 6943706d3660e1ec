import { describe, expect, it } from 'vitest'
import { box, framesOf, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import { Survey } from '@tidytrail/core/survey'
import { Heat, recordedOf, straying, type Run } from '.'

const stops = [
  [10, 10],
  [50.25, 10.25],
] as const

function strayed(run: Run, frames = Infinity) {
  const survey = new Survey()
  survey.update(run.level)
  return straying(recordedOf(run), survey.plannerFor, frames)
}

describe('heat', () => {
  it('is the seconds everybody spent in each square, and all of them together', () => {
    const level = travelLevel(preset('Warden'), stops, {
      route: { travel: 'there-and-back' },
      stop: { 1: { pause: { minS: 10, maxS: 10 } } },
      spawner: { count: 2, everyS: 3 },
      sideM: 60,
    })
    const run = rehearsed(level, 60)
    const heat = new Heat(level.settings.extent)
    for (let k = 0; k < run.engine.recording.frameCount; k++) heat.add(run.engine.recording.frame(k))
    const rows = framesOf(run).flat()
    expect(heat.seconds.reduce((a, b) => a + b, 0)).toBeCloseTo(rows.length / 10, 1)
    const at = (x: number, y: number) =>
      heat.seconds[Math.floor(y / heat.squareM) * heat.columns + Math.floor(x / heat.squareM)]
    // Where they pause is the hottest place; where nobody comes it is cold.
    const paused = rows.filter((r) => r.state === 'pausing')
    expect(at(paused[40].x, paused[40].y)).toBeGreaterThan(8)
    expect(Math.max(...heat.seconds)).toBeLessThan(25)
    expect(at(30, 30)).toBe(0)
  })

  it('has no more squares on a huge level than a picture can show', () => {
    const heat = new Heat({ minX: -5000, minY: 0, maxX: 5000, maxY: 20 })
    expect(heat.columns * heat.rows).toBeLessThan(260_000)
    expect(heat.squareM).toBeGreaterThanOrEqual(0.5)
  })
})

describe('straying', () => {
  it('tells where along its legs who was off, as measured from the recording', () => {
    // Two who meet head on give way to each other in the middle.
    const level = travelLevel(preset('Warden'), stops, { route: { travel: 'there-and-back' }, sideM: 60 })
    level.spawners.sp_b = { ...level.spawners.sp_a, name: 'Other', at: [50, 10, 0] }
    level.routes.rt_b = { ...level.routes.rt_a, name: 'Back', order: [...level.routes.rt_a.order].reverse() }
    const step = { ...level.briefs.br_a.steps.bs_a, routeId: 'rt_b' } as never
    level.briefs.br_b = { ...level.briefs.br_a, name: 'C', steps: { bs_a: step } }
    level.spawners.sp_b.briefId = 'br_b'
    const run = rehearsed(level, 30)
    const legs = strayed(run)
    expect(new Set(legs.map((l) => l.routeId))).toEqual(new Set(['rt_a', 'rt_b']))
    const walked = framesOf(run)
      .flat()
      .filter((r) => r.state === 'walking' && r.from >= 0)
    const most = Math.max(...legs.flatMap((l) => [...l.offM]))
    expect(most).toBeCloseTo(Math.max(...walked.map((r) => r.off)), 3)
    expect(most).toBeGreaterThan(0.2)
    for (const leg of legs) {
      const worst = leg.offM.indexOf(Math.max(...leg.offM))
      if (leg.offM[worst] < 0.2) continue
      const x = (leg.points[3 * worst] + leg.points[3 * worst + 3]) / 2
      const near = walked.filter((r) => Math.abs(r.x - x) < 1.5)
      expect(near.some((r) => Math.abs(r.off - leg.offM[worst]) < 0.001)).toBe(true)
    }
  })

  it('says nothing of stretches nobody has come to, and of legs round a block follows the way found', () => {
    const level = travelLevel(preset('Warden'), stops, { solids: { sd_a: box(25, 5, 30, 20) }, sideM: 60 })
    const run = rehearsed(level, 14)
    const [leg] = strayed(run)
    const been = [...leg.offM].map((off) => off >= 0)
    expect(been[0]).toBe(true)
    expect(been.at(-1)).toBe(false)
    const ys = Array.from({ length: leg.points.length / 3 }, (_, k) => leg.points[3 * k + 1])
    expect(Math.min(...ys) < 5 || Math.max(...ys) > 20).toBe(true)
    // Up to the first frame nobody has been anywhere.
    expect(strayed(run, 1)).toEqual([])
  })
})
