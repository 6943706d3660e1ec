/** The order of texts by their code units, the same everywhere. */
export const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)
