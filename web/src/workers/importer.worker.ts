import { formatNamed, plainly, unpackZip, type FormatOf, type Format } from '@tidytrail/core/formats'
import { lookUpMesh, packHeights, packMesh, type HeightGrid } from '@tidytrail/core/ground'
import { readLevelFile } from '@tidytrail/core/level'
import { expose, transfer } from 'comlink'
import dracoWasm from 'draco3dgltf/draco_decoder_gltf.wasm?url'
import type { HeightsImport, Importer } from './importer.protocol'
import { drawMeshPlan } from './mesh-plan'

const PREVIEW_PX = 320

/** Shades of relief lit from the north-west, coarsely sampled. */
function preview({ columns, rows, z }: HeightGrid): HeightsImport['preview'] {
  const step = Math.max(1, Math.ceil(Math.max(columns, rows) / PREVIEW_PX))
  const width = Math.ceil(columns / step)
  const height = Math.ceil(rows / step)
  let low = Infinity
  let high = -Infinity
  for (const v of z) {
    if (v < low) low = v
    if (v > high) high = v
  }
  const at = (i: number, j: number) => z[Math.min(rows - 1, j * step) * columns + Math.min(columns - 1, i * step)]
  const shade = new Uint8ClampedArray(width * height)
  const span = high - low || 1
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) {
      const lit = ((at(i, j) - at(i + 1, j) + at(i, j + 1) - at(i, j)) / span) * 900
      shade[(height - 1 - j) * width + i] = 120 + 70 * ((at(i, j) - low) / span) - lit
    }
  }
  return { width, height, shade }
}

/** The format with an id, which gives what is asked of it. @throws TypeError when there is no such one */
function named<G extends Format['gives']>(id: string, gives: G): FormatOf<G> {
  const format = formatNamed(id)
  if (format?.gives !== gives) throw new TypeError(`no format ${id} gives ${gives}`)
  return format as FormatOf<G>
}

/** The decoder of meshes packed with Draco, which is fetched when a file needs it. */
async function draco(): Promise<unknown> {
  const [{ default: make }, wasm] = await Promise.all([
    import('draco3dgltf/draco_decoder_gltf_nodejs.js'),
    fetch(dracoWasm).then((answer) => answer.arrayBuffer()),
  ])
  return make({ wasmBinary: wasm })
}

const importer: Importer = {
  async unpack(bytes) {
    const files = await plainly('zip', () => unpackZip(bytes))
    return transfer(
      files,
      files.map((f) => f.bytes.buffer),
    )
  },
  async mesh(format, bytes, options, files) {
    const mesh = named(format, 'mesh')
    const read = await plainly(mesh.word, () => mesh.read(bytes, options, { files, decoders: { draco } }))
    const packed = packMesh(read.mesh) as Uint8Array<ArrayBuffer>
    return {
      packed,
      plan: drawMeshPlan(read.mesh, lookUpMesh(read.mesh)),
      triangles: read.mesh.indices.length / 3,
      min: read.box.min,
      max: read.box.max,
      repairs: read.repairs,
    }
  },
  async heights(format, bytes, options) {
    const heights = named(format, 'heights')
    const read = await plainly(heights.word, () => heights.read(bytes, options))
    let lowM = Infinity
    let highM = -Infinity
    for (const v of read.grid.z) {
      if (v < lowM) lowM = v
      if (v > highM) highM = v
    }
    return {
      packed: packHeights(read.grid) as Uint8Array<ArrayBuffer>,
      columns: read.grid.columns,
      rows: read.grid.rows,
      lowM,
      highM,
      spacingM: read.spacingM,
      origin: read.origin,
      cells: read.cells,
      holes: read.holes ?? [],
      repairs: read.repairs,
      preview: preview(read.grid),
    }
  },
  geo(format, text, frame) {
    const features = named(format, 'features')
    return plainly(features.word, () => features.read(text, frame))
  },
  streets(format, text) {
    const streets = named(format, 'streets')
    return plainly(streets.word, () => streets.read(text))
  },
  lanes(format, bytes) {
    const lanes = named(format, 'lanes')
    return plainly(lanes.word, () => lanes.read(bytes))
  },
  level: (bytes) => readLevelFile(new TextDecoder().decode(bytes)),
}

expose(importer)
