import { distanceToLine } from '@tidytrail/core/geometry'
import type { World } from './world'

/** Below this speed somebody who wants to walk counts as stuck, metres a second. */
const STUCK_MPS = 0.05
/** Width of a class of the cross-track tally, metres, and how many there are. */
export const CLASS_M = 0.01
const CLASSES = 1000

/** Running figures for each agent; memory does not grow with time. */
export class Measures {
  private readonly squares: Float64Array
  private readonly greatest: Float64Array
  private readonly samples: Float64Array
  private readonly tally: Uint32Array

  constructor(agents: number) {
    this.squares = new Float64Array(agents)
    this.greatest = new Float64Array(agents)
    this.samples = new Float64Array(agents)
    this.tally = new Uint32Array(agents * CLASSES)
  }

  /** Takes the figures of one step. Cross-track error counts from the first stop on, while walking. */
  take(world: World): void {
    for (let n = 0; n < world.agents.length; n++) {
      const agent = world.agents[n]
      if (agent.state !== 'walking') {
        world.stuckS[n] = 0
        continue
      }
      const stuck = world.speed[n] < STUCK_MPS && world.t - world.legSinceS[n] > 1
      world.stuckS[n] = stuck ? world.stuckS[n] + world.stepS : 0
      world.longestStuckS[n] = Math.max(world.longestStuckS[n], world.stuckS[n])
      const corner = Math.min(agent.corner, agent.path.length - 1)
      const near = agent.path.slice(Math.max(0, corner - 2), corner + 1)
      const off = distanceToLine(near, world.x[n], world.y[n])
      world.offLine[n] = off
      if (agent.fromStop < 0) continue
      this.squares[n] += off * off
      this.greatest[n] = Math.max(this.greatest[n], off)
      this.samples[n]++
      this.tally[n * CLASSES + Math.min(CLASSES - 1, Math.floor(off / CLASS_M))]++
    }
  }

  /** Cross-track error of one agent, metres: root mean square, 95th percentile (to a centimetre), greatest. */
  crossTrack(n: number): { rms: number; p95: number; max: number } {
    const samples = this.samples[n]
    if (samples === 0) return { rms: 0, p95: 0, max: 0 }
    let seen = 0
    let p95 = 0
    for (let c = 0; c < CLASSES; c++) {
      seen += this.tally[n * CLASSES + c]
      if (seen >= 0.95 * samples) {
        p95 = (c + 1) * CLASS_M
        break
      }
    }
    const max = this.greatest[n]
    return { rms: Math.sqrt(this.squares[n] / samples), p95: Math.min(p95, max), max }
  }
}
