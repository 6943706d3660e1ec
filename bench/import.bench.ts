import { Document, WebIO } from '@gltf-transform/core'
import { readGltf, readObj } from '@tidytrail/core/formats'
import { lookUpMesh, packMesh, provideAsset, terrainOf, type MeshData } from '@tidytrail/core/ground'
import { setThings, type Level } from '@tidytrail/core/level'
import { ReachMap, reachSource } from '@tidytrail/core/reach'
import { fakeHash, sceneLevel } from '@tidytrail/core/testing'
import { quantile, report, timed } from './measure'

const SIDE = 500

/** Hilly ground of so many triangles as a mesh: the hardest kind, since all of it is seen from above. */
function hills(triangles: number): MeshData {
  const n = Math.round(Math.sqrt(triangles / 2))
  const positions = new Float32Array((n + 1) * (n + 1) * 3)
  for (let j = 0, k = 0; j <= n; j++) {
    for (let i = 0; i <= n; i++) {
      const [x, y] = [(i / n) * SIDE, (j / n) * SIDE]
      positions[k++] = x
      positions[k++] = y
      positions[k++] = 6 * Math.sin(x / 31) * Math.cos(y / 23) + 0.4 * Math.sin(x / 2.1 + y / 3.3)
    }
  }
  const indices = new Uint32Array(n * n * 6)
  for (let j = 0, k = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i
      for (const v of [a, a + 1, a + n + 2, a, a + n + 2, a + n + 1]) indices[k++] = v
    }
  }
  return { positions, indices }
}

async function glbOf(mesh: MeshData): Promise<Uint8Array> {
  const d = new Document()
  const buffer = d.createBuffer()
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', d.createAccessor().setType('VEC3').setArray(mesh.positions.slice()).setBuffer(buffer))
    .setIndices(d.createAccessor().setType('SCALAR').setArray(mesh.indices.slice()).setBuffer(buffer))
  d.createScene().addChild(d.createNode('Hills').setMesh(d.createMesh().addPrimitive(primitive)))
  return new WebIO().writeBinary(d)
}

function objOf({ positions, indices }: MeshData): string {
  const lines: string[] = []
  for (let k = 0; k < positions.length; k += 3) lines.push(`v ${positions[k]} ${positions[k + 1]} ${positions[k + 2]}`)
  for (let k = 0; k < indices.length; k += 3)
    lines.push(`f ${indices[k] + 1} ${indices[k + 1] + 1} ${indices[k + 2] + 1}`)
  return lines.join('\n')
}

/** A mesh of half a million triangles: read, looked up, walked on, and dragged. */
export async function benchImport(): Promise<void> {
  const mesh = hills(500_000)
  const triangles = mesh.indices.length / 3
  const glb = await glbOf(mesh)
  const obj = objOf(mesh)
  const options = { upAxis: 'z', scale: 1 } as const
  const began = performance.now()
  const read = await readGltf(glb, options)
  const glbMs = performance.now() - began
  const parseMs = timed(() => JSON.parse(JSON.stringify(Array.from(mesh.positions)))).ms
  report({
    what: `import of a mesh of ${triangles.toLocaleString('en')} triangles, glTF`,
    measured: glbMs / 1000,
    unit: 's',
    reference: `its coordinates through JSON ${(parseMs / 1000).toFixed(2)} s`,
  })
  const asObj = timed(() => readObj(obj, options))
  report({
    what: 'the same, OBJ',
    measured: asObj.ms / 1000,
    unit: 's',
    reference: `${(obj.length / 1048576).toFixed(0)} MB of text`,
  })
  const looked = timed(() => lookUpMesh(read.mesh))
  report({ what: 'the same mesh indexed, once an asset', measured: looked.ms, unit: 'ms' })

  const hash = fakeHash('hills')
  provideAsset(hash, packMesh(read.mesh))
  const bare = sceneLevel(
    SIDE,
    SIDE,
    {},
    { settings: { extent: { minX: 0, minY: 0, maxX: SIDE, maxY: SIDE }, cellM: 0.5 } },
  )
  const flat = reachSource(bare, 'pf_warden')
  const flatMs = timed(() => new ReachMap(flat).carryOut(new ReachMap(flat).planFor(flat)!)).ms
  let level: Level = {
    ...bare,
    meshes: sceneLevel(1, 1, {}, { meshes: { ms_a: { name: 'Hills', assetId: hash, at: [0, 0, 1] } } }).meshes,
  }
  terrainOf(level)
  const map = new ReachMap(reachSource(level, 'pf_warden'))
  const { ms } = timed(() => map.carryOut(map.planFor(map.source)!))
  report({
    what: 'reach map over that mesh, 0.25 km² at 0.5 m',
    measured: (map.columns * map.rows) / (ms / 1000),
    unit: 'columns/s',
    reference: `the same square bare: ${Math.round((map.columns * map.rows) / (flatMs / 1000)).toLocaleString('en')} columns/s`,
  })
  const placed: number[] = []
  for (let k = 0; k < 20; k++) {
    level = setThings.apply(level, { things: [{ in: 'meshes', id: 'ms_a', set: { at: [0, 0, 1 + k * 0.1] } }] }).level
    placed.push(timed(() => terrainOf(level)).ms)
  }
  report({ what: 'that mesh moved: terrain ready again, 95th', measured: quantile(placed, 0.95), unit: 'ms' })
}
