/** Hands the browser a text as a file. */
export function downloadText(name: string, text: string, type = 'application/json'): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type }))
  link.download = name.replaceAll(/[/\\:*?"<>|]/g, ' ')
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
