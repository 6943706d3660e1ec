import { FORMAT_LIMITS } from '@tidytrail/core/formats'

/** A file that was dropped or chosen, with the folders it lies in. */
export interface LooseFile {
  readonly path: string
  readonly file: File
}

/** What is chosen in a file field, with its folders where a folder was chosen. */
export const filesChosen = (list: Iterable<File> | null | undefined): LooseFile[] =>
  [...(list ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }))

/**
 * All files of a drop, those in dropped folders too.
 * @throws Error when there are too many
 */
export async function filesDropped(data: DataTransfer | null): Promise<LooseFile[]> {
  // What was dropped is known only until the event is over: it is all asked for before anything is waited for.
  const items = [...(data?.items ?? [])].filter((i) => i.kind === 'file')
  const entries = items.map((i) => i.webkitGetAsEntry?.() ?? i.getAsFile())
  const found: LooseFile[] = []
  for (const entry of entries) {
    if (entry instanceof File) found.push({ path: entry.name, file: entry })
    else if (entry) await gather(entry, found)
  }
  return found
}

async function gather(entry: FileSystemEntry, found: LooseFile[]): Promise<void> {
  if (entry.name.startsWith('.')) return
  if (found.length >= FORMAT_LIMITS.files)
    throw new Error(`more than ${FORMAT_LIMITS.files.toLocaleString('en')} files were dropped`)
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed))
    found.push({ path: entry.fullPath.replace(/^\//, ''), file })
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  // A folder gives its entries some at a time, until it gives none.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed))
    if (some.length === 0) return
    for (const inner of some) await gather(inner, found)
  }
}
