import { Document, WebIO } from '@gltf-transform/core'

/** A binary glTF file of one square of two triangles, standing where its node is. */
export async function squareGlb(change: (d: Document) => void = () => {}, io = new WebIO()): Promise<Uint8Array> {
  const d = new Document()
  const buffer = d.createBuffer()
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>) =>
    d.createAccessor().setType(type).setArray(array).setBuffer(buffer)
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from([0, 0, 0, 2, 0, 0, 2, 0, -3, 0, 0, -3])))
    .setIndices(accessor('SCALAR', Uint16Array.from([0, 1, 2, 0, 2, 3])))
  const node = d.createNode('Deck').setMesh(d.createMesh().addPrimitive(primitive)).setTranslation([10, 5, 0])
  d.createScene().addChild(node)
  change(d)
  return io.writeBinary(d)
}
