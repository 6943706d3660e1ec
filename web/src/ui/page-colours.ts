/** The page's own colours, for what is drawn on a canvas. */
const NAMES = [
  'paper',
  'sheet',
  'ink',
  'faded',
  'rule',
  'pine',
  'rust',
  'ochre',
  'lake',
  'plum',
  'alarm',
  'water',
  'contour',
  'desk',
  'on-fill',
  'tint',
] as const
export type ColourName = (typeof NAMES)[number]
export type PageColours = Readonly<Record<ColourName, string>>

/** The colours as they are now: by day or by night. */
export function pageColours(): PageColours {
  const style = getComputedStyle(document.documentElement)
  return Object.fromEntries(NAMES.map((n) => [n, style.getPropertyValue(`--${n}`).trim()])) as PageColours
}
