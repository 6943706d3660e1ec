import { FRAME_FIELDS, FRAMES_PER_SECOND } from './recording'
import type { Recorded } from './recorded'
import { STATES } from './world'

/** Decimals of places and speeds: what a recording keeps. */
const DIGITS = 3
const quoted = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/**
 * Every frame of a rehearsal as CSV (RFC 4180): time, agent, name, x, y, z, heading (radians, 0 east, anticlockwise), speed,
 * state. Seconds, metres, metres a second.
 */
export function positionsCsv({ agents, frameCount, frame: frameAt }: Recorded): string {
  const lines = ['time,agent,name,x,y,z,heading,speed,state']
  const of = new Map(agents.map((m) => [m.key, `${m.id},${quoted(m.name)}`]))
  const m = (mm: number) => (mm / 1000).toFixed(DIGITS)
  for (let k = 0; k < frameCount; k++) {
    const frame = frameAt(k)
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      const [key, x, y, z, heading, speed, , state] = frame.subarray(r, r + FRAME_FIELDS)
      lines.push(
        `${(k / FRAMES_PER_SECOND).toFixed(1)},${of.get(key)},${m(x)},${m(y)},${m(z)},${m(heading)},${m(speed)},${STATES[state]}`,
      )
    }
  }
  return `${lines.join('\n')}\n`
}
