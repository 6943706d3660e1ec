import { canSee, type Terrain } from '@tidytrail/core/ground'
import { eyesOf, type Profile } from '@tidytrail/core/level'
import type { AgentMoment } from '../../stores/frames'
import { X, Y, type Pen } from '../pen'

/** Rays a wedge of sight is drawn with, and how finely the end of each is found, metres. */
const RAYS = 72
const FINE_M = 0.25
/** What is looked for is so high above the floor the looker stands on, metres. */
const LOOKED_FOR_M = 1.2

/**
 * The wedge somebody sees, cut by what blocks sight: x and y of its corners, the looker first. For a body as tall as a
 * person on the looker's own floor. Metres.
 */
export function wedgeOf(terrain: Terrain, profile: Profile, now: AgentMoment): Float64Array {
  const { sightM, sightRad } = profile
  const eye = now.z + eyesOf(profile)
  const target = now.z + LOOKED_FOR_M
  const out = new Float64Array(2 * (RAYS + 2))
  out[0] = now.x
  out[1] = now.y
  for (let k = 0; k <= RAYS; k++) {
    const a = now.heading + sightRad * (k / RAYS - 0.5)
    const [c, s] = [Math.cos(a), Math.sin(a)]
    let near = 0
    let far = sightM
    if (!canSee(terrain, now.x, now.y, eye, now.x + c * far, now.y + s * far, target)) {
      // What is seen of a ray is taken to be its beginning.
      while (far - near > FINE_M) {
        const mid = (near + far) / 2
        if (canSee(terrain, now.x, now.y, eye, now.x + c * mid, now.y + s * mid, target)) near = mid
        else far = mid
      }
      far = near
    }
    out[2 * k + 2] = now.x + c * far
    out[2 * k + 3] = now.y + s * far
  }
  return out
}

/** Finding what everybody sees may take so long a frame, ms; who did not come to its turn is drawn as it last was. */
const BUDGET_MS = 6

interface Known {
  readonly now: AgentMoment
  readonly terrain: Terrain
  readonly profile: Profile
  readonly wedge: Float64Array
  readonly turn: number
}

/** Wedges as they were last found, of many agents in turn. */
export class Wedges {
  private readonly known = new Map<number, Known>()
  private turn = 0

  /** The wedges of some agents now, undefined where there was no time yet; those found longest ago are found anew first. */
  of(
    terrain: Terrain,
    lookers: readonly { readonly key: number; readonly profile: Profile; readonly now: AgentMoment }[],
    clock: () => number = () => performance.now(),
  ): (Float64Array | undefined)[] {
    const until = clock() + BUDGET_MS
    this.turn++
    const stale = lookers.filter(({ key, now, profile }) => {
      const known = this.known.get(key)
      return !known || known.terrain !== terrain || known.profile !== profile || !sameLook(known.now, now)
    })
    stale.sort((a, b) => (this.known.get(a.key)?.turn ?? -1) - (this.known.get(b.key)?.turn ?? -1))
    for (const { key, profile, now } of stale) {
      if (clock() > until) break
      this.known.set(key, { now, terrain, profile, wedge: wedgeOf(terrain, profile, now), turn: this.turn })
    }
    return lookers.map(({ key }) => this.known.get(key)?.wedge)
  }
}

const sameLook = (a: AgentMoment, b: AgentMoment) =>
  a.x === b.x && a.y === b.y && a.z === b.z && a.heading === b.heading

/** Draws what somebody sees and how far it hears a walker. */
export function drawSenses(pen: Pen, wedge: Float64Array, profile: Profile, now: AgentMoment): void {
  const { c, inks, view } = pen
  c.beginPath()
  for (let k = 0; k < wedge.length; k += 2) c.lineTo(X(pen, wedge[k]), Y(pen, wedge[k + 1]))
  c.closePath()
  c.globalAlpha = 0.16
  c.fillStyle = inks.colour.lake
  c.fill()
  c.globalAlpha = 0.8
  c.strokeStyle = inks.colour.lake
  c.lineWidth = 1
  c.stroke()
  c.setLineDash([2, 5])
  c.beginPath()
  c.arc(X(pen, now.x), Y(pen, now.y), profile.hearsM * view.scale, 0, 7)
  c.stroke()
  c.setLineDash([])
  c.globalAlpha = 1
}

/** Draws lines from those who see to whom they see. */
export function drawPerceived(
  pen: Pen,
  pairs: readonly { from: number; to: number }[],
  momentOf: (key: number) => AgentMoment | undefined,
): void {
  const { c, inks } = pen
  c.strokeStyle = inks.colour.lake
  c.lineWidth = 1.5
  c.setLineDash([7, 4])
  c.beginPath()
  for (const { from, to } of pairs) {
    const a = momentOf(from)
    const b = momentOf(to)
    if (!a || !b) continue
    c.moveTo(X(pen, a.x), Y(pen, a.y))
    c.lineTo(X(pen, b.x), Y(pen, b.y))
  }
  c.stroke()
  c.setLineDash([])
}
