import { smoothPieces, spaced, type Point3 } from '@tidytrail/core/geometry'
import { chance } from '@tidytrail/core/testing'
import { report, timed } from './measure'

const ROUTES = 10_000
const STOPS = 12

/** Smoothing and sampling of many routes, beside drawing the same places straight. */
export function benchCourses(): void {
  const next = chance(3)
  const routes = Array.from({ length: ROUTES }, () => {
    let [x, y] = [next() * 2000, next() * 2000]
    return Array.from({ length: STOPS }, (): Point3 => [(x += next() * 30 - 10), (y += next() * 30 - 10), next()])
  })
  let places = 0
  const smooth = timed(() => routes.map((r) => smoothPieces(r, { everyM: 1 })))
  for (const pieces of smooth.value) for (const p of pieces) places += p.length
  const sampled = timed(() => smooth.value.map((pieces) => spaced(pieces.flat(), 5).length))
  const straight = timed(() => routes.map((r) => spaced(r, 1).length))
  report({
    what: `${ROUTES.toLocaleString('en')} routes of ${STOPS} stops, smoothed`,
    measured: smooth.ms,
    unit: 'ms',
    reference: `${places.toLocaleString('en')} places; the same straight, every metre, ${straight.ms.toFixed(0)} ms`,
  })
  report({ what: 'the same, sampled every 5 m', measured: sampled.ms, unit: 'ms' })
}
