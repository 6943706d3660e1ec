import type { Faction } from '@tidytrail/core/level'
import { addDrop } from '../drop'
import type { InkName, Inks } from '../inks'

/** How a drop is filled: pattern first, ink second; a player's stand-in is hollow with a double line. */
export interface DropLook {
  readonly ink: InkName
  readonly pattern: Faction['pattern']
  readonly hollow?: boolean
}

/** Of those who belong to no faction, and of those who cannot go on. */
export const NOBODYS = { ink: 'rust', pattern: 'plain' } as const satisfies DropLook
export const STUCK: DropLook = { ink: 'alarm', pattern: 'plain' }

/** The look of those of a faction. */
export const lookOf = (faction: Pick<Faction, 'ink' | 'pattern'> | undefined): Pick<Faction, 'ink' | 'pattern'> =>
  faction ? { ink: faction.ink, pattern: faction.pattern } : NOBODYS

export const keyOfLook = ({ ink, pattern, hollow }: DropLook): string => `${ink} ${pattern} ${hollow ? 1 : 0}`

/** Draws an agent at a place. @param turn radians, clockwise on the window */
export function dropOf(
  inks: Inks,
  c: CanvasRenderingContext2D,
  look: DropLook,
  x: number,
  y: number,
  turn: number,
  r: number,
): void {
  const { ink, pattern, hollow } = look
  c.beginPath()
  addDrop(c, x, y, turn, r)
  if (hollow) {
    c.strokeStyle = inks.colour[ink]
    c.lineWidth = 4.6
    c.stroke()
  }
  c.strokeStyle = inks.colour.sheet
  c.lineWidth = 1.6
  c.stroke()
  c.fillStyle = hollow ? inks.colour.sheet : inks.colour[ink]
  c.fill()
  if (pattern === 'plain' || r < 3) return
  c.save()
  c.clip()
  drawPattern(c, pattern, hollow ? inks.colour[ink] : inks.colour.sheet, x, y, turn, r)
  c.restore()
}

function drawPattern(
  c: CanvasRenderingContext2D,
  pattern: Faction['pattern'],
  colour: string,
  x: number,
  y: number,
  turn: number,
  r: number,
): void {
  c.translate(x, y)
  c.rotate(turn)
  c.strokeStyle = c.fillStyle = colour
  c.lineWidth = Math.max(1, r * 0.26)
  c.beginPath()
  if (pattern === 'striped')
    for (const u of [-0.55, 0.1, 0.75]) {
      c.moveTo(u * r, -r)
      c.lineTo(u * r, r)
    }
  else if (pattern === 'ringed') c.arc(0, 0, r * 0.5, 0, 7)
  else
    for (const [u, v] of [
      [-0.4, -0.35],
      [-0.4, 0.35],
      [0.2, 0],
      [0.85, 0],
    ]) {
      c.moveTo(u * r + r * 0.17, v * r)
      c.arc(u * r, v * r, r * 0.17, 0, 7)
    }
  if (pattern === 'dotted') c.fill()
  else c.stroke()
}
