/** A file that was given together with others. */
export interface GivenFile {
  /** Its name, with the folders it lies in where they are known. */
  readonly path: string
  readonly bytes: Uint8Array<ArrayBuffer>
}

/** What a reader may have beside the file itself. */
export interface Beside {
  /** The other files that were given with it. */
  readonly files?: readonly GivenFile[]
  /** Makes the decoders that some files need; each is asked for only when one does. */
  readonly decoders?: { readonly draco?: () => Promise<unknown> }
}

const plain = (path: string) =>
  path
    .replace(/\\/g, '/')
    .replace(/^(\.?\/)+/, '')
    .toLowerCase()

/**
 * The file another one refers to, as web addresses do: seen from the folder the other lies in, and else by its name
 * alone, which is enough where folders were lost on the way.
 */
export function fileBeside(files: readonly GivenFile[], uri: string, from = ''): GivenFile | undefined {
  let name = uri.split(/[?#]/)[0]
  try {
    name = decodeURIComponent(name)
  } catch {
    // Not encoded, then.
  }
  const steps: string[] = []
  for (const step of `${from.includes('/') ? from.replace(/[^/]*$/, '') : ''}${plain(name)}`.split('/')) {
    if (step === '..') steps.pop()
    else if (step !== '.' && step !== '') steps.push(step)
  }
  const wanted = plain(steps.join('/'))
  const last = (path: string) => plain(path).split('/').at(-1)
  return files.find((f) => plain(f.path) === wanted) ?? files.find((f) => last(f.path) === last(wanted))
}
