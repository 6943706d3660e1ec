const compact = new Intl.NumberFormat('en', { notation: 'compact', maximumFractionDigits: 0 })

/** A number of things where there is room for three figures: as it is, or in thousands or millions. */
export const briefCount = (n: number): string => compact.format(n).replace('K', 'k')
