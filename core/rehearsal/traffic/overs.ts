import { nearestOnLine, OVER_M, type MeasuredLine, type PlanCrossing } from '@tidytrail/core/traffic'
import { NO_OVERS, type Course, type Over } from '../course'

/** Who passes so far beside a crossing still goes over it, metres. */
const BESIDE_M = 0.5

/** Where a course leads over crossings from kerb to kerb; one that begins on a crossing leads over it from its beginning. */
export function oversOn(course: Course, crossings: readonly (PlanCrossing | undefined)[]): readonly Over[] {
  const overs: Over[] = []
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let k = 0; k < course.count; k++) {
    minX = Math.min(minX, course.x[k])
    minY = Math.min(minY, course.y[k])
    maxX = Math.max(maxX, course.x[k])
    maxY = Math.max(maxY, course.y[k])
  }
  for (const crossing of crossings) {
    if (!crossing) continue
    const { box, line, number } = crossing
    if (box.minX > maxX || box.maxX < minX || box.minY > maxY || box.maxY < minY) continue
    const kerbs = [...kerbAt(course, crossing, 0), ...kerbAt(course, crossing, 1)].sort((a, b) => a.s - b.s)
    const near = nearestOnLine(line, [course.x[0], course.y[0], course.z[0]])
    const level = Math.abs(near.at[2] - course.z[0]) < OVER_M
    let from =
      level && near.farM < crossing.widthM / 2 && near.m > 0 && near.m < line.lengthM ? { s: 0, end: -1 } : undefined
    for (const kerb of kerbs) {
      if (from && from.end !== kerb.end) {
        overs.push({ crossing: number, fromS: from.s, toS: kerb.s, back: kerb.end === 0 })
        from = undefined
      } else from = kerb
    }
  }
  if (overs.length === 0) return NO_OVERS
  return overs.sort((a, b) => a.fromS - b.fromS)
}

/** Where a course crosses a kerb of a crossing. @param end 0 where it begins, 1 where it ends */
function kerbAt(course: Course, { line, widthM }: PlanCrossing, end: 0 | 1): { s: number; end: number }[] {
  const [px, py, pz, ux, uy] = endOf(line, end)
  const half = widthM / 2 + BESIDE_M
  const found: { s: number; end: number }[] = []
  for (let k = 1; k < course.count; k++) {
    // How far before the kerb, as the crossing leads, the ends of the piece are.
    const a = (course.x[k - 1] - px) * ux + (course.y[k - 1] - py) * uy
    const b = (course.x[k] - px) * ux + (course.y[k] - py) * uy
    if (a > 0 === b > 0) continue
    const share = a / (a - b)
    const z = course.z[k - 1] + share * (course.z[k] - course.z[k - 1])
    if (Math.abs(z - pz) >= OVER_M) continue
    const x = course.x[k - 1] + share * (course.x[k] - course.x[k - 1])
    const y = course.y[k - 1] + share * (course.y[k] - course.y[k - 1])
    if (Math.abs((y - py) * ux - (x - px) * uy) > half) continue
    found.push({ s: course.s[k - 1] + share * (course.s[k] - course.s[k - 1]), end })
  }
  return found
}

function endOf({ places }: MeasuredLine, end: 0 | 1): [x: number, y: number, z: number, ux: number, uy: number] {
  const [a, b] = end === 0 ? [places[0], places[1]] : [places[places.length - 2], places[places.length - 1]]
  const dx = b[0] - a[0]
  const dy = b[1] - a[1]
  const length = Math.sqrt(dx * dx + dy * dy)
  const [x, y, z] = end === 0 ? a : b
  return [x, y, z, dx / length, dy / length]
}
