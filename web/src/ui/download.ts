/** Hands the browser a text as a file. */
export const downloadText = (name: string, text: string, type = 'application/json'): void => download(name, text, type)

/** Hands the browser bytes as a file. */
export const downloadBytes = (name: string, bytes: Uint8Array<ArrayBuffer>, type: string): void =>
  download(name, bytes, type)

function download(name: string, content: BlobPart, type: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([content], { type }))
  link.download = name.replaceAll(/[/\\:*?"<>|]/g, ' ')
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
