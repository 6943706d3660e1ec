import type { Stop } from '@tidytrail/core/level'

const POINTS = ['E', 'NE', 'N', 'NW', 'W', 'SW', 'S', 'SE']

/** "4 s", "3–6 s", or a dash. */
export function pauseWords({ pause }: Stop): string {
  if (pause.maxS === 0) return '–'
  return pause.minS === pause.maxS ? `${pause.minS} s` : `${pause.minS}–${pause.maxS} s`
}

/** The compass point nearest to a direction, or a dash. */
export function facingWords(rad: number | null): string {
  if (rad === null) return '–'
  return POINTS[((Math.round(rad / (Math.PI / 4)) % 8) + 8) % 8]
}
