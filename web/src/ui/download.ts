/** Hands the browser a text as a file. */
export function downloadText(name: string, text: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }))
  link.download = name.replaceAll(/[/\\:*?"<>|]/g, ' ')
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
