/** Rounded to whole millimetres, so that files stay short and diffs small. */
export function toMillimetre(m: number): number {
  return Math.round(m * 1000) / 1000 || 0
}
