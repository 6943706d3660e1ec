import { byWeight, draw, USE } from './chance'
import type { Engine } from './engine'
import type { StepRow } from './steps/list'

/**
 * Which of several a step is for an agent: drawn once for each, so that it can be told at any time, or anew each time.
 * @param within the sentence the step belongs to; 0 for none
 * @param begins is the step begun, so that a draw is made where it is made anew?
 */
export function optionOf(
  { seed, world }: Engine,
  n: number,
  row: StepRow,
  step: number,
  begins = false,
  within = world.within[n],
): number {
  if (row.options.length === 0) return 0
  // Draws of different steps and sentences have nothing to do with each other.
  const place = within * 1024 + step
  if (!row.anew) return byWeight(row.weights, draw(seed, USE.choice, world.key[n], place))
  if (!begins) return world.step[n] === step && world.within[n] === within ? world.choice[n] : 0
  return byWeight(row.weights, draw(seed, USE.choice, world.key[n], 0x100000 + world.drawsChoice[n]++))
}
