import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lengthOf, turnRoundLine, type Point3 } from '.'

const pose = () =>
  fc.record({
    x: fc.integer({ min: -4000, max: 4000 }).map((n) => n / 100),
    y: fc.integer({ min: -4000, max: 4000 }).map((n) => n / 100),
    rad: fc.integer({ min: -310, max: 310 }).map((n) => n / 100),
  })
const from = { at: [0, 0, 2] as Point3, rad: 0 }
const to = ({ x, y, rad }: { x: number; y: number; rad: number }) => ({ at: [x, y, 5] as Point3, rad })

/** Radius of the circle through three places, metres. */
function circle([a, b, c]: readonly Point3[]): number {
  const [p, q, r] = [Math.hypot(b[0] - a[0], b[1] - a[1]), Math.hypot(c[0] - b[0], c[1] - b[1]), Math.hypot(c[0] - a[0], c[1] - a[1])] // prettier-ignore
  const area2 = Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]))
  return area2 < 1e-9 ? Infinity : (p * q * r) / (2 * area2)
}

/** The shortest of many ways of arc, straight or arc, and arc, found by trying first arcs one after the other. */
function tried(x: number, y: number, rad: number, r: number): number {
  let best = Infinity
  for (const first of [1, -1])
    for (let t = 0; t < 2 * Math.PI; t += 0.002) {
      // Where the first arc ends, and the circles the last may lie on.
      const [px, py] = [first * r * Math.sin(first * t), first * r * (1 - Math.cos(t))]
      const on = first * t
      for (const last of [1, -1]) {
        const [cx, cy] = [x - last * r * Math.sin(rad), y + last * r * Math.cos(rad)]
        // Straight on: it touches the last circle where that lies a radius aside.
        const along = (cx - px) * Math.cos(on) + (cy - py) * Math.sin(on)
        const aside = -(cx - px) * Math.sin(on) + (cy - py) * Math.cos(on)
        const turn = (a: number) => ((a % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
        if (along >= -0.01 && Math.abs(aside - last * r) < 0.004 * r) best = Math.min(best, t * r + Math.max(0, along) + turn(last * (rad - on)) * r) // prettier-ignore
      }
    }
  return best
}

describe('a line that turns round', () => {
  it('leaves and comes in as told, and bends nowhere more tightly', () => {
    fc.assert(
      fc.property(pose(), fc.double({ min: 2, max: 15, noNaN: true }), (p, r) => {
        const line = turnRoundLine(from, to(p), r)
        expect(line[0]).toEqual([0, 0, 2])
        expect(line.at(-1)).toEqual([p.x, p.y, 5])
        const [a, b] = [line[1], line.at(-2)!]
        // A first piece is at most six degrees of an arc, so that it leads off by three.
        const off = (angle: number) => Math.abs(Math.atan2(Math.sin(angle), Math.cos(angle)))
        if (Math.hypot(a[0], a[1]) > 1e-3) expect(off(Math.atan2(a[1], a[0]))).toBeLessThan(0.054)
        if (Math.hypot(p.x - b[0], p.y - b[1]) > 1e-3) expect(off(Math.atan2(p.y - b[1], p.x - b[0]) - p.rad)).toBeLessThan(0.054) // prettier-ignore
        for (let k = 2; k < line.length; k++) {
          const three = line.slice(k - 2, k + 1)
          const short = Math.min(...[0, 1].map((i) => Math.hypot(three[i + 1][0] - three[i][0], three[i + 1][1] - three[i][1]))) // prettier-ignore
          if (short > 1e-3) expect(circle(three)).toBeGreaterThan(0.985 * r)
          expect(line[k][2]).toBeGreaterThanOrEqual(line[k - 1][2] - 1e-12)
        }
      }),
    )
  })

  it('is no longer than any way found by trying', () => {
    fc.assert(
      fc.property(pose(), (p) => {
        // A hair aside takes whole circles more, which trying with a hair's tolerance does not see.
        fc.pre(Math.abs(p.y) > 0.5 && Math.abs(p.rad) > 0.05)
        expect(lengthOf(turnRoundLine(from, to(p), 6, 0.05))).toBeLessThan(tried(p.x, p.y, p.rad, 6) + 0.15)
      }),
      { numRuns: 60 },
    )
  })

  it('is the half circle where the ends lie two radii apart', () => {
    expect(lengthOf(turnRoundLine(from, { at: [0, 12, 0], rad: Math.PI }, 6, 0.02))).toBeCloseTo(6 * Math.PI, 2)
  })

  it('swings out and round where they lie nearer, by the three arcs geometry gives', () => {
    // Lines through the middles of the three circles: two sides of two radii, over the places four metres apart.
    const [r, apart] = [6, 4]
    const swing = Math.acos((r + apart / 2) / (2 * r))
    expect(lengthOf(turnRoundLine(from, { at: [0, -apart, 0], rad: Math.PI }, r, 0.02))).toBeCloseTo(r * (Math.PI + 4 * swing), 2) // prettier-ignore
  })

  it('is straight where the other lies ahead', () => {
    expect(lengthOf(turnRoundLine(from, { at: [20, 0, 0], rad: 0 }, 6))).toBeCloseTo(20, 9)
  })
})
