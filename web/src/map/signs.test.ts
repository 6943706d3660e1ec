import type { Finding } from '@tidytrail/core/checks'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { drawFindings } from './layers/findings'
import { recordingPen } from './recording-pen'
import { APART_PX, signsOf } from './signs'

const finding = (x: number, y: number, severity: Finding['severity'] = 'warning'): Finding =>
  ({ check: 'c', severity, stage: 'routes', subjects: [`wp_${x}_${y}`], at: [x, y, 0], message: 'm' }) as never

it('every finding has one sign near it, no two signs touch, and the gravest stands for the rest', () => {
  const place = fc.double({ min: 0, max: 60, noNaN: true })
  const severity = fc.constantFrom('blocker', 'warning', 'note')
  const list = fc.array(fc.tuple(place, place, severity), { maxLength: 120 })
  const gravity = ['blocker', 'warning', 'note']
  fc.assert(
    fc.property(list, fc.double({ min: 0.5, max: 40, noNaN: true }), (places, scale) => {
      const findings = places.map(([x, y, s]) => finding(x, y, s as Finding['severity']))
      const signs = signsOf(findings, scale)
      expect(signs.flatMap((s) => s.members).sort((a, b) => a - b)).toEqual(findings.map((_, k) => k))
      for (const [n, { at, members }] of signs.entries()) {
        for (const m of members) {
          expect(scale * Math.hypot(findings[m].at[0] - at[0], findings[m].at[1] - at[1])).toBeLessThan(APART_PX)
          expect(gravity.indexOf(findings[m].severity)).toBeGreaterThanOrEqual(
            gravity.indexOf(findings[members[0]].severity),
          )
        }
        for (const other of signs.slice(n + 1))
          expect(scale * Math.hypot(other.at[0] - at[0], other.at[1] - at[1])).toBeGreaterThanOrEqual(APART_PX - 1e-9)
      }
    }),
  )
})

/** All of it, however many slices that takes. */
const draw = (...args: Parameters<typeof drawFindings>) => void [...drawFindings(...args)]

it('a sign bears the number its finding has in the list, and how many more there are', () => {
  const view = { x: 10, y: 10, scale: 10, width: 400, height: 400 }
  const { pen, words } = recordingPen(view)
  draw(pen, [finding(10, 10), finding(20, 10), finding(10.2, 10, 'blocker'), finding(10, 10.1, 'note')], new Set())
  expect(words().sort()).toEqual(['+2', '2', '3'])
  // Closer by they part.
  const near = recordingPen({ ...view, scale: 400 })
  draw(near.pen, [finding(10, 10), finding(10.2, 10, 'blocker')], new Set())
  expect(near.words().sort()).toEqual(['1', '2'])
})
