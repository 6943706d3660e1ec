/** What went wrong, as one sentence without its stack. */
export const wordsOf = (error: unknown): string => {
  const text = error instanceof Error ? error.message : String(error)
  return text.trim() || 'it ended without a word'
}
