import type { Stroke } from '../../ui/stroke'

type Line = Omit<Stroke, 'd'>

/** How a line of each kind of route looks in lists; the last for waypoints of no route. */
export const LINES: Readonly<Record<string, Line>> = {
  patrol: { ink: 'rust', dash: '7 3', width: 3 },
  lane: { ink: 'lake', width: 3 },
  circuit: { ink: 'plum', width: 5 },
  mission: { ink: 'ochre', dash: '2.5 3.5', width: 3.5 },
  network: { ink: 'pine', width: 1.5 },
  loose: { ink: 'faded', dash: '2 2', width: 1.5 },
}
