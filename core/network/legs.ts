import type { Route } from '@tidytrail/core/level'

/** From one stop of a route to the next, as positions in its order. */
export interface Leg {
  readonly from: number
  readonly to: number
}

/** The legs a route is drawn with, in order; a round has one that closes it. */
export function legsOf(route: Pick<Route, 'order' | 'travel'>): Leg[] {
  const n = route.order.length
  const legs: Leg[] = []
  for (let i = 0; i + 1 < n; i++) legs.push({ from: i, to: i + 1 })
  if (route.travel === 'round' && n > 2) legs.push({ from: n - 1, to: 0 })
  return legs
}

/** Where a traveller at a stop goes next, and in which direction; undefined at the end of the way. */
export function nextStop(
  route: Pick<Route, 'order' | 'travel'>,
  at: number,
  direction: 1 | -1,
): { to: number; direction: 1 | -1 } | undefined {
  const n = route.order.length
  if (n < 2) return undefined
  if (route.travel === 'round') return { to: (at + 1) % n, direction: 1 }
  if (route.travel === 'there-and-back') {
    const turned = at + direction < 0 || at + direction >= n ? (-direction as 1 | -1) : direction
    return { to: at + turned, direction: turned }
  }
  return at + 1 < n ? { to: at + 1, direction: 1 } : undefined
}
