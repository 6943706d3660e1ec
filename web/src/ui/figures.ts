/** Lengths as people read them: 0.42 m, 12.3 m, 286 m, 1.24 km. */
export function metres(m: number): string {
  const a = Math.abs(m)
  if (a >= 1000) return `${(m / 1000).toFixed(2)} km`
  return `${m.toFixed(a >= 100 ? 0 : a >= 10 ? 1 : 2)} m`
}

/** Times as people read them: 4.2 s, 52 s, 3 min 52 s. */
export function seconds(s: number): string {
  if (s < 60) return `${s.toFixed(s < 10 && s % 1 !== 0 ? 1 : 0)} s`
  const whole = Math.round(s)
  return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`
}

/** A moment in a rehearsal: 1:06. */
export function clock(s: number): string {
  const whole = Math.floor(s + 1e-6)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

/** Room on a disk: 12 kB, 3.4 MB. */
export const bytes = (n: number) => (n < 100_000 ? `${Math.ceil(n / 1000)} kB` : `${(n / 1_000_000).toFixed(1)} MB`)

/** "1 stop", "4 stops". */
export const count = (n: number, one: string, many = `${one}s`) => `${n.toLocaleString('en')} ${n === 1 ? one : many}`

/** How long ago, in words. */
export function ago(ms: number): string {
  const s = ms / 1000
  if (s < 60) return 'a moment ago'
  if (s < 3600) return `${Math.floor(s / 60)} min ago`
  if (s < 86_400) return `${Math.floor(s / 3600)} h ago`
  return `${Math.floor(s / 86_400)} d ago`
}

/** The travel modes, as the interface calls them. */
export const TRAVEL_WORDS = {
  'one-way': 'One way',
  round: 'Round',
  'there-and-back': 'There and back',
  'any-order': 'Any order',
} as const
