/** Milliseconds a piece of work takes. */
export function timed<T>(work: () => T): { ms: number; value: T } {
  const began = performance.now()
  const value = work()
  return { ms: performance.now() - began, value }
}

/** The value below which a share of the figures lie. */
export function quantile(figures: readonly number[], share: number): number {
  const sorted = [...figures].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]
}

export interface Figure {
  readonly what: string
  readonly measured: number
  readonly unit: string
  readonly budget?: number
  /** Is a smaller figure the better one? */
  readonly less?: boolean
  readonly reference?: string
}

const digits = (v: number) =>
  v >= 100 ? Math.round(v).toLocaleString('en') : v >= 10 ? v.toFixed(1) : v.toPrecision(3)

/** One line: what, how much, the budget and how far within or beyond it, and the reference. */
export function report({ what, measured, unit, budget, less = true, reference }: Figure): void {
  const held = budget === undefined ? '' : (less ? measured <= budget : measured >= budget) ? 'held' : 'MISSED'
  const ratio = budget === undefined ? '' : `${digits(less ? budget / measured : measured / budget)} ×`
  process.stdout.write(
    `${what.padEnd(58)} ${`${digits(measured)} ${unit}`.padStart(18)}  ${(budget === undefined ? '' : `budget ${digits(budget)}`).padEnd(18)} ${held.padEnd(7)} ${ratio.padEnd(9)} ${reference ?? ''}\n`,
  )
}
