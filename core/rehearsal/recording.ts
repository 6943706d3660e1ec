import { exact } from '@tidytrail/core/geometry'
import { STATES, type World } from './world'

/** Whole numbers kept of each agent in a frame: x, y, z (mm), heading (mrad), speed (mm/s), off the line (mm), state, from stop, to stop. */
export const FRAME_FIELDS = 9
/** Frames kept a second. */
export const FRAMES_PER_SECOND = 10

/** What happened, frame by frame, in whole numbers; and a hash of all of it. */
export class Recording {
  readonly frames: Int32Array[] = []
  private h1 = 0x811c9dc5
  private h2 = 0x2166f0a3

  /** Adds a frame of the world as it is now. */
  take(world: World): Int32Array {
    const frame = new Int32Array(world.agents.length * FRAME_FIELDS)
    for (let n = 0; n < world.agents.length; n++) {
      const agent = world.agents[n]
      const k = n * FRAME_FIELDS
      frame[k] = Math.round(world.x[n] * 1000)
      frame[k + 1] = Math.round(world.y[n] * 1000)
      frame[k + 2] = Math.round(world.z[n] * 1000)
      frame[k + 3] = agent.state === 'waiting' ? 0 : Math.round(exact.atan2(world.headY[n], world.headX[n]) * 1000)
      frame[k + 4] = Math.round(world.speed[n] * 1000)
      frame[k + 5] = Math.round(world.offLine[n] * 1000)
      frame[k + 6] = STATES.indexOf(agent.state)
      frame[k + 7] = agent.fromStop
      frame[k + 8] = agent.toStop
    }
    for (let k = 0; k < frame.length; k++) {
      this.h1 = Math.imul(this.h1 ^ frame[k], 0x01000193)
      this.h2 = Math.imul(this.h2 ^ frame[k], 0x85ebca6b)
    }
    this.frames.push(frame)
    return frame
  }

  /** Sixteen hexadecimal digits that differ when anything recorded differs. */
  get hash(): string {
    const hex = (h: number) => (h >>> 0).toString(16).padStart(8, '0')
    return hex(this.h1) + hex(this.h2)
  }
}
