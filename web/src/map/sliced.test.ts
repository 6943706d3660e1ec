import { describe, expect, it } from 'vitest'
import { allOf, inTurn, Sliced, type Drawn } from './sliced'

/** A clock that only goes on when it is told to. */
function clock() {
  let t = 0
  return { now: () => t, pass: (ms: number) => void (t += ms) }
}

function* marks(list: string[], name: string, count: number): Generator<void, void> {
  for (let k = 0; k < count; k++) {
    list.push(`${name}${k}`)
    yield
  }
}

describe('drawing in steps', () => {
  it('comes to the same as drawing at once, in the same order', () => {
    const list: string[] = []
    const drawings: (() => Drawn)[] = [
      () => marks(list, 'a', 3),
      () => void list.push('b'),
      () => marks(list, 'c', 0),
      () => marks(list, 'd', 2),
    ]
    allOf(inTurn(drawings))
    expect(list).toEqual(['a0', 'a1', 'a2', 'b', 'd0', 'd1'])
    allOf(undefined)
  })

  it('stops after about the time it was given, and goes on where it stopped', () => {
    const { now, pass } = clock()
    const list: number[] = []
    const sliced = new Sliced(() => {}, now)
    sliced.begin(
      (function* () {
        for (let k = 0; k < 20; k++) {
          list.push(k)
          pass(2)
          yield
        }
      })(),
    )
    let frames = 0
    let longest = 0
    while (sliced.busy) {
      const before = list.length
      sliced.work(10)
      longest = Math.max(longest, 2 * (list.length - before))
      frames++
    }
    expect(list).toEqual(Array.from({ length: 20 }, (_, k) => k))
    expect(longest).toBeLessThanOrEqual(12)
    expect(frames).toBeGreaterThan(3)
  })

  it('tells less at a time where what was told takes long to be drawn', () => {
    const { now, pass } = clock()
    let told = 0
    let owed = 0
    // What is told takes nine times as long to draw as to tell.
    const sliced = new Sliced(() => {
      pass(owed)
      owed = 0
    }, now)
    sliced.begin(
      (function* () {
        for (let k = 0; k < 400; k++) {
          told++
          pass(0.1)
          owed += 0.9
          yield
        }
      })(),
    )
    const took: number[] = []
    while (sliced.busy) {
      const from = now()
      sliced.work(10)
      took.push(now() - from)
    }
    expect(told).toBe(400)
    // It has learned by the fourth slice.
    expect(Math.max(...took.slice(4))).toBeLessThan(14)
    expect(took.at(-2)).toBeGreaterThan(6)
  })

  it('begun anew lets go of what was not finished', () => {
    const { now, pass } = clock()
    const list: string[] = []
    const sliced = new Sliced(() => {}, now)
    const slow = function* (name: string) {
      for (let k = 0; k < 3; k++) {
        list.push(name)
        pass(20)
        yield
      }
    }
    sliced.begin(slow('old'))
    sliced.work(1)
    sliced.begin(slow('new'))
    while (sliced.busy) sliced.work(1)
    expect(list).toEqual(['old', 'new', 'new', 'new'])
  })
})
