import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  canStop,
  changeGain,
  clearsInS,
  followAccel,
  fundamentalDiagram,
  steadyFlowPerH,
  steadyGapM,
  uniformDelayS,
  USUAL_CHANGER,
  USUAL_DRIVER,
  type Driver,
} from '.'

const DT = 1 / 30
const LENGTH_M = 4
/** A line is stood before, not on, metres. */
const BEFORE_M = 1

interface Car {
  x: number
  v: number
  goes?: boolean
}
/** One step of cars in one lane, the first ahead; each may be told of something that stands before it. */
function step(
  cars: Car[],
  driver: Driver,
  stopAt: (car: Car, k: number) => number | undefined = () => undefined,
): void {
  const asked = cars.map((car, k) => {
    const ahead = cars[k - 1]
    let a = ahead
      ? followAccel(driver, car.v, ahead.x - LENGTH_M - car.x, car.v - ahead.v)
      : followAccel(driver, car.v, Infinity, 0)
    const line = stopAt(car, k)
    if (line !== undefined) a = Math.min(a, followAccel(driver, car.v, line - car.x + driver.gapM - BEFORE_M, car.v))
    return a
  })
  cars.forEach((car, k) => {
    const v = Math.max(0, car.v + asked[k] * DT)
    car.x += ((car.v + v) / 2) * DT
    car.v = v
  })
}
const queue = (count: number, apartM = LENGTH_M + USUAL_DRIVER.gapM): Car[] =>
  Array.from({ length: count }, (_, k) => ({ x: -k * apartM, v: 0 }))

describe('following', () => {
  it('settles at the gap and flow the model gives, to a hundredth', () => {
    for (const mps of [3, 6, 9, 12]) {
      const cars: Car[] = [{ x: 0, v: mps }, ...Array.from({ length: 6 }, (_, k) => ({ x: -(k + 1) * 40, v: mps }))]
      for (let t = 0; t < 400; t += DT) {
        step(cars, USUAL_DRIVER)
        cars[0].v = mps
      }
      const gap = cars[4].x - LENGTH_M - cars[5].x
      expect(Math.abs(gap / steadyGapM(USUAL_DRIVER, mps) - 1)).toBeLessThan(0.01)
      const perH = (3600 * cars[5].v) / (cars[4].x - cars[5].x)
      expect(Math.abs(perH / steadyFlowPerH(USUAL_DRIVER, mps, LENGTH_M) - 1)).toBeLessThan(0.01)
    }
  })

  it('starts and stops a platoon without anybody touching, and stands at the gap it keeps', () => {
    const cars = queue(12)
    let least = Infinity
    for (let t = 0; t < 120; t += DT) {
      step(cars, USUAL_DRIVER, (_, k) => (k === 0 ? 600 : undefined))
      for (let k = 1; k < cars.length; k++) least = Math.min(least, cars[k - 1].x - LENGTH_M - cars[k].x)
    }
    expect(least).toBeGreaterThan(1.5)
    for (const { v } of cars) expect(v).toBeLessThan(0.05)
    for (let k = 1; k < cars.length; k++) {
      const gap = cars[k - 1].x - LENGTH_M - cars[k].x
      expect(gap).toBeGreaterThan(1.9)
      expect(gap).toBeLessThan(2.7)
    }
  })

  it('lets 1,700 to 2,100 an hour over a stop line once it is green', () => {
    const cars = queue(30)
    const crossed: number[] = []
    for (let t = 0; t < 90; t += DT) {
      const before = cars.map((c) => c.x)
      step(cars, USUAL_DRIVER)
      cars.forEach((c, k) => before[k] < 1 && c.x >= 1 && crossed.push(t))
    }
    // After the first four, who still speed up (as it is measured in the field).
    const perH = (3600 * 20) / (crossed[24] - crossed[4])
    expect(perH).toBeGreaterThan(1700)
    expect(perH).toBeLessThan(2100)
  })

  it('delays at a fixed-time signal as Webster’s uniform term says', () => {
    const [cycle, green] = [60, 27]
    const every = 9
    const cars: Car[] = []
    const LINE = 300
    let delay = 0
    let counted = 0
    const since = new Map<Car, number>()
    // A saturation flow of its own, from a discharging queue.
    const saturation = 1900
    for (let t = 0, next = 0; t < 1800; t += DT) {
      if (t >= next) {
        const car = { x: 0, v: USUAL_DRIVER.wishMps * 0.95 }
        cars.push(car)
        since.set(car, t)
        next += every
      }
      const red = t % cycle >= green
      step(cars, USUAL_DRIVER, (car) => (red && car.x < LINE && canStop(car.v, LINE - car.x, 3.5) ? LINE : undefined))
      while (cars.length > 0 && cars[0].x > LINE + 300) {
        const car = cars.shift()!
        if (t > 300) {
          delay += t - since.get(car)! - (LINE + 300) / (USUAL_DRIVER.wishMps * 0.97)
          counted++
        }
      }
    }
    // Amber counts as green for a while, and starting up is lost: an effective green.
    const expected = uniformDelayS(cycle, green, 3600 / every, saturation)
    expect(counted).toBeGreaterThan(100)
    // What is lost by braking and speeding up again comes on top.
    expect(delay / counted).toBeGreaterThan(0.85 * expected)
    expect(delay / counted).toBeLessThan(1.45 * expected)
  })

  it('gives way as often as Siegloch’s formula says', () => {
    // Headways of the main road drawn anew from a seed of its own.
    let state = 12345
    const random = () => (state = (state * 48271) % 2147483647) / 2147483647
    for (const perH of [300, 600, 900]) {
      const q = perH / 3600
      const toClear = clearsInS(8, { lengthM: LENGTH_M, accelMps2: USUAL_DRIVER.accelMps2, topMps: 8 })
      const needed = toClear + 1
      const run = (main: boolean, span: number) => {
        const cars = queue(4)
        let arrival = main ? -Math.log(random()) / q : Infinity
        let gone = 0
        for (let t = 0; t < span; t += DT) {
          while (arrival < t) arrival += -Math.log(random()) / q
          // The first before the line decides once, when it is there; what is gone for is gone for.
          step(cars, USUAL_DRIVER, (car) => {
            if (car.x >= 0 || car.goes) return undefined
            if (car.x > -6 && arrival - t >= needed) car.goes = true
            return car.goes ? undefined : 0
          })
          if (cars[0].x > 30) {
            cars.shift()
            gone++
            const last = cars[cars.length - 1]
            cars.push({ x: last.x - LENGTH_M - USUAL_DRIVER.gapM, v: 0 })
          }
        }
        return gone / span
      }
      const followUp = 1 / run(false, 900)
      const siegloch = Math.exp(-q * (needed - followUp / 2)) / followUp
      const share = run(true, 5400) / siegloch
      expect(share).toBeGreaterThan(0.85)
      expect(share).toBeLessThan(1.15)
    }
  })

  it('never wishes to be faster than its wish, and brakes no harder than a hard stop', () => {
    const figure = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    fc.assert(
      fc.property(figure(0, 40), figure(0, 200), figure(-20, 40), (v, gap, closing) => {
        const a = followAccel(USUAL_DRIVER, v, gap, closing)
        expect(a).toBeGreaterThanOrEqual(-9)
        expect(a).toBeLessThanOrEqual(USUAL_DRIVER.accelMps2)
        if (v >= USUAL_DRIVER.wishMps) expect(a).toBeLessThanOrEqual(0)
        // Nearer, or closing faster, it never asks for more.
        expect(followAccel(USUAL_DRIVER, v, gap / 2, closing)).toBeLessThanOrEqual(a + 1e-12)
        expect(followAccel(USUAL_DRIVER, v, gap, closing + 1)).toBeLessThanOrEqual(a + 1e-12)
      }),
    )
  })

  it('has a fundamental diagram with one greatest flow', () => {
    const curve = fundamentalDiagram(USUAL_DRIVER, LENGTH_M)
    const top = curve.reduce((best, p, k) => (p.perH > curve[best].perH ? k : best), 0)
    for (let k = 1; k < curve.length; k++)
      if (k <= top) expect(curve[k].perH).toBeGreaterThan(curve[k - 1].perH)
      else expect(curve[k].perH).toBeLessThan(curve[k - 1].perH)
    expect(curve[0].perKm).toBeCloseTo(1000 / 6, 6)
  })
})

describe('changing lanes', () => {
  const gain = (now: Parameters<typeof changeGain>[4], then: Parameters<typeof changeGain>[5], more = {}) =>
    changeGain(USUAL_DRIVER, { ...USUAL_CHANGER, ...more }, 10, LENGTH_M, now, then)

  it('is worth it behind somebody slow with a free lane beside, and not the other way', () => {
    const slow = { ahead: { gapM: 12, mps: 4 } }
    expect(gain(slow, {})).toBeGreaterThan(0)
    expect(gain({}, slow)).toBeLessThan(0)
    expect(gain({}, {})).toBeLessThan(0)
  })

  it('is never done where there is no room, or who comes behind would have to brake hard', () => {
    const slow = { ahead: { gapM: 8, mps: 2 } }
    expect(gain(slow, { ahead: { gapM: -1, mps: 20 } })).toBe(-Infinity)
    expect(gain(slow, { behind: { gapM: -1, mps: 10 } })).toBe(-Infinity)
    expect(gain(slow, { behind: { gapM: 3, mps: 14 } })).toBe(-Infinity)
    expect(gain(slow, { behind: { gapM: 60, mps: 10 } })).toBeGreaterThan(0)
  })

  it('minds others by how polite one is', () => {
    const slow = { ahead: { gapM: 25, mps: 8 } }
    const then = { behind: { gapM: 14, mps: 11 } }
    expect(gain(slow, then, { politeness: 0 })).toBeGreaterThan(gain(slow, then, { politeness: 0.5 }))
    // One who lets somebody behind get on gains by it.
    const held = { ...slow, behind: { gapM: 3, mps: 10 } }
    expect(gain(held, {}, { politeness: 1 })).toBeGreaterThan(gain(held, {}, { politeness: 0 }))
  })
})
