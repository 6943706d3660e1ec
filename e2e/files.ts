import { Document, WebIO } from '@gltf-transform/core'
import { KHRDracoMeshCompression } from '@gltf-transform/extensions'
import draco3d from 'draco3dgltf'
import { encode } from 'fast-png'

/** Files to be imported, made on the spot. */
export interface MadeFile {
  name: string
  mimeType: string
  buffer: Buffer
}

const file = (name: string, bytes: Uint8Array | string, mimeType = 'application/octet-stream'): MadeFile => ({
  name,
  mimeType,
  buffer: Buffer.from(bytes as Uint8Array),
})

/** Upright boxes, y up as glTF has it: [x0, z0, x1, z1, height] each, in metres. */
function boxesDocument(name: string, boxes: [number, number, number, number, number][]): Document {
  const positions: number[] = []
  const indices: number[] = []
  for (const [x0, z0, x1, z1, h] of boxes) {
    const first = positions.length / 3
    for (const y of [0, h])
      for (const [x, z] of [
        [x0, z1],
        [x1, z1],
        [x1, z0],
        [x0, z0],
      ])
        positions.push(x, y, z)
    const quad = (a: number, b: number, c: number, d: number) =>
      indices.push(first + a, first + b, first + c, first + a, first + c, first + d)
    quad(4, 5, 6, 7)
    quad(3, 2, 1, 0)
    for (let k = 0; k < 4; k++) quad(k, (k + 1) % 4, ((k + 1) % 4) + 4, k + 4)
  }
  const d = new Document()
  const buffer = d.createBuffer()
  const primitive = d
    .createPrimitive()
    .setAttribute(
      'POSITION',
      d.createAccessor().setType('VEC3').setArray(Float32Array.from(positions)).setBuffer(buffer),
    )
    .setIndices(d.createAccessor().setType('SCALAR').setArray(Uint32Array.from(indices)).setBuffer(buffer))
  d.createScene().addChild(d.createNode(name).setMesh(d.createMesh().addPrimitive(primitive)))
  return d
}

/** A binary glTF file of upright boxes. */
export async function boxesGlb(name: string, boxes: [number, number, number, number, number][]): Promise<MadeFile> {
  return file(`${name}.glb`, await new WebIO().writeBinary(boxesDocument(name, boxes)))
}

/** The same as JSON packed with Draco, with its data in a file of its own and a picture that it does not need. */
export async function boxesInParts(
  name: string,
  boxes: [number, number, number, number, number][],
): Promise<MadeFile[]> {
  const d = boxesDocument(name, boxes)
  d.getRoot().listBuffers()[0].setURI(`${name}.bin`)
  d.createExtension(KHRDracoMeshCompression).setRequired(true)
  const io = new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule() })
  const { json, resources } = await io.writeJSON(d)
  return [file(`${name}.gltf`, JSON.stringify(json)), file(`${name}.bin`, resources[`${name}.bin`]), planPng(32, 32)]
}

/** A height map of 16 bits: a ridge that runs north. */
export function ridgePng(columns: number, rows: number): MadeFile {
  const data = Uint16Array.from({ length: columns * rows }, (_, k) => {
    const t = (k % columns) / (columns - 1)
    return Math.round(65_535 * Math.sin(Math.PI * t) ** 2)
  })
  return file('ridge.png', encode({ width: columns, height: rows, data, channels: 1, depth: 16 }), 'image/png')
}

/** A plan to trace: a dark cross on white. */
export function planPng(width: number, height: number): MadeFile {
  const data = new Uint8Array(width * height * 3).fill(240)
  for (let k = 0; k < width * height; k++) {
    const i = k % width
    const j = Math.floor(k / width)
    if (i === Math.floor(width / 2) || j === Math.floor(height / 2)) data.fill(30, k * 3, k * 3 + 3)
  }
  return file('plan.png', encode({ width, height, data, channels: 3, depth: 8 }), 'image/png')
}

export const textFile = (name: string, text: string) => file(name, new TextEncoder().encode(text))
