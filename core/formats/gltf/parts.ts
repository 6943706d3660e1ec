import type { GLTF } from '@gltf-transform/core'
import { assertShallow, LevelError } from '@tidytrail/core/level'
import { FormatError } from '../error'
import { GLTF_1 } from './tame'

const GLB_MAGIC = 0x46546c67
const JSON_CHUNK = 0x4e4f534a

export interface Parts {
  readonly json: GLTF.IGLTF
  /** The binary chunk of the binary form. */
  readonly bin: Uint8Array | undefined
}

/** Either form of a glTF file as its parts, before a library takes it apart. */
export function partsOf(bytes: Uint8Array): Parts {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let text: string
  let bin: Uint8Array | undefined
  if (bytes.byteLength >= 20 && view.getUint32(0, true) === GLB_MAGIC) {
    if (view.getUint32(4, true) === 1) throw new FormatError('', GLTF_1)
    if (view.getUint32(4, true) !== 2)
      throw new FormatError('header', `is glTF ${view.getUint32(4, true)}, and only 2 is read`)
    const length = view.getUint32(8, true)
    if (length !== bytes.byteLength) {
      throw new FormatError(
        'header',
        `says ${length} bytes, but the file has ${bytes.byteLength}: it is cut off or damaged`,
      )
    }
    const json = view.getUint32(12, true)
    if (view.getUint32(16, true) !== JSON_CHUNK || 20 + json > bytes.byteLength)
      throw new FormatError('first chunk', 'is not the JSON it must be')
    text = new TextDecoder().decode(bytes.subarray(20, 20 + json))
    const next = 20 + json
    if (next + 8 <= bytes.byteLength) {
      const size = view.getUint32(next, true)
      if (next + 8 + size > bytes.byteLength)
        throw new FormatError('binary chunk', 'reaches beyond the end of the file')
      bin = bytes.slice(next + 8, next + 8 + size)
    }
  } else text = new TextDecoder().decode(bytes)
  try {
    assertShallow(text)
    return { json: JSON.parse(text) as GLTF.IGLTF, bin }
  } catch (error) {
    if (error instanceof LevelError) throw new FormatError(error.at, error.why)
    throw new FormatError('', 'is no glTF: neither its binary form nor JSON')
  }
}
