import { unzipSync } from 'fflate'
import type { GivenFile } from './beside'
import { FormatError } from './error'
import { FORMAT_LIMITS } from './limits'
import { FORMATS } from './list'

const ZIP_MAGIC = 0x504b0304

/** Is it a zip, whatever it is called? */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes.length > 4 && new DataView(bytes.buffer, bytes.byteOffset, 4).getUint32(0) === ZIP_MAGIC

/** Folders and files that archives hold for themselves. */
const HIDDEN = /(^|\/)(__MACOSX\/|\.)|\/$/

/**
 * The files of a zip archive.
 * @throws FormatError when it is damaged, or unpacks to more than is read
 */
export function unpackZip(bytes: Uint8Array): GivenFile[] {
  let sum = 0
  let count = 0
  let unpacked
  try {
    unpacked = unzipSync(bytes, {
      filter({ name, originalSize }) {
        if (HIDDEN.test(name)) return false
        sum += originalSize
        if (++count > FORMAT_LIMITS.files)
          throw new FormatError('', `the zip holds more than ${FORMAT_LIMITS.files.toLocaleString('en')} files`)
        if (sum > FORMAT_LIMITS.fileBytes)
          throw new FormatError(
            name.slice(0, 80),
            `the zip unpacks to more than ${FORMAT_LIMITS.fileBytes / (1024 * 1024)} MB, the most that is read`,
          )
        return true
      },
    })
  } catch (error) {
    if (error instanceof FormatError) throw error
    throw new FormatError('', 'the zip is damaged, or packed in a way that is not read')
  }
  return Object.entries(unpacked).map(([path, data]) => ({ path, bytes: data as Uint8Array<ArrayBuffer> }))
}

const endingOf = (path: string) => path.toLowerCase().split('.').at(-1) ?? ''

/**
 * Those of some files that can be imported as they are, the likeliest first. Pictures that come with a mesh are its own
 * and not meant.
 * @returns none when nothing among them can be read
 */
export function mainsOf(files: readonly GivenFile[]): GivenFile[] {
  const rank = (file: GivenFile) => FORMATS.findIndex((f) => f.endings.includes(endingOf(file.path)))
  const depth = (file: GivenFile) => file.path.split('/').length
  const readable = files
    .filter((f) => rank(f) >= 0)
    .sort((a, b) => rank(a) - rank(b) || depth(a) - depth(b) || (a.path < b.path ? -1 : 1))
  const isMesh = (f: GivenFile) => FORMATS[rank(f)].gives === 'mesh'
  const isPicture = (f: GivenFile) => /^(png|jpe?g|webp)$/.test(endingOf(f.path))
  return readable.some(isMesh) ? readable.filter((f) => !isPicture(f)) : readable
}
