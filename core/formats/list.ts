import { esriAscii } from './esri-ascii'
import type { Format } from './format'
import { geoJson } from './geojson'
import { gltf, gltfChains } from './gltf'
import { heightPng } from './height-png'
import { obj } from './obj'
import { openDrive } from './opendrive'
import { osm } from './osm'
import { picture } from './picture'

/** Every format that can be read as a file. */
export const FORMATS: readonly Format[] = [
  gltf,
  gltfChains,
  obj,
  heightPng,
  esriAscii,
  geoJson,
  openDrive,
  osm,
  picture,
]

/** What names of files that can be read end in, once each. */
export const ENDINGS: readonly string[] = [...new Set(FORMATS.flatMap((f) => f.endings))]

export const formatNamed = (id: string): Format | undefined => FORMATS.find((f) => f.id === id)

/**
 * The formats a file may be of, by its name and what it holds, the likeliest first.
 * @throws FormatError when what it holds is not what its name says; Error when nothing with such a name can be read
 */
export function formatsOf(name: string, bytes: Uint8Array): readonly Format[] {
  const ending = name.toLowerCase().split('.').at(-1) ?? ''
  const told = FORMATS.filter((f) => f.endings.includes(ending)).map((f) => [f, f.sniff?.(bytes) ?? true] as const)
  const found = [true, 'perhaps'].flatMap((how) => told.flatMap(([f, is]) => (is === how ? [f] : [])))
  if (found.length > 0) return found
  const all = ENDINGS.map((e) => `.${e}`)
  const wrong = told.length > 0 ? `it is no ${told.map(([f]) => f.word).join(' and no ')}; ` : ''
  throw new Error(`${wrong}files that can be read end in ${all.slice(0, -1).join(', ')} or ${all.at(-1)}`)
}
