import { describe, expect, it } from 'vitest'
import { blankLevel, levelSchema, type Level } from '@tidytrail/core/level'
import { laneNet, layLaneMap } from '@tidytrail/core/traffic'
import { squareGlb } from '@tidytrail/core/testing'
import { formatsOf, readChains } from '..'

const bytesOf = (document: object) =>
  new TextEncoder().encode(JSON.stringify({ asset: { version: '2.0' }, ...document }))
const at = (x: number, y: number, z: number, name = '') => ({ name, translation: [x, y, z] })

describe('chains of nodes in a glTF file', () => {
  it('are lanes in the order of their nodes, where their parents put them, y being up', () => {
    const map = readChains(
      bytesOf({
        scene: 0,
        scenes: [{ nodes: [0] }],
        nodes: [
          // A quarter turn about the axis that is up, ten metres to the east, twice as large.
          { name: 'Quay road', children: [1, 2, 3], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2], translation: [10, 0, 0], scale: [2, 2, 2] }, // prettier-ignore
          at(0, 0, 0),
          at(10, 1, 0),
          at(10, 1, 10),
        ],
      }),
    )
    expect(map.lanes).toHaveLength(1)
    expect(map.lanes[0].name).toBe('Quay road')
    // Turned, east leads to the north: (0, 0), (0, 20) and (20, 20), about their middle.
    expect(map.lanes[0].points).toEqual([[-10, -10, 0], [-10, 10, 2], [10, 10, 2]]) // prettier-ignore
    expect(map.wide.map((m) => Math.round(m))).toEqual([20, 20])
  })

  it('are told by their names where they are in no node, and meshes among them are none', () => {
    const nodes = [at(0, 0, 0, 'Lane A.001'), at(9, 0, 0, 'Lane A.002'), at(0, 0, 5, 'b-1'), { ...at(5, 0, 5, 'Lane A.003'), mesh: 0 }, at(9, 0, 5, 'b-2')] // prettier-ignore
    const map = readChains(bytesOf({ nodes, meshes: [{ primitives: [{ attributes: {} }] }] }))
    expect(map.lanes.map((l) => [l.name, l.points.length])).toEqual([
      ['Lane A', 2],
      ['b', 2],
    ])
  })

  it('become lanes of a level that lead as they are ordered', () => {
    const map = readChains(bytesOf({ nodes: [{ children: [1, 2] }, at(0, 0, 0), at(30, 0, -4)] }))
    let ids = 0
    const newId = (kind: string) => `${{ waypoints: 'wp', routes: 'rt', stops: 'st' }[kind]}_${ids++}`
    const steps = layLaneMap(map, [60, 40], newId as never, () => 1)
    const level = levelSchema.parse(steps.reduce((l, step) => step(l).level, blankLevel('Chains') as Level))
    const [lane] = laneNet(level).lanes.values()
    expect(lane.line.places).toEqual([[45, 38, 1], [75, 42, 1]]) // prettier-ignore
    expect(lane.route).toMatchObject({ name: 'Chain 1', kind: 'lane', use: 'drive', legs: 'drawn' })
  })

  it('are found by what is in the file: first where it holds no mesh, beside it where it does', async () => {
    const ids = (bytes: Uint8Array) => formatsOf('way.glb', bytes).map((f) => f.id)
    const nodes = [{ children: [1, 2] }, at(0, 0, 0), at(9, 0, 0)]
    expect(ids(bytesOf({ nodes }))).toEqual(['gltf-chains', 'gltf'])
    expect(ids(bytesOf({ nodes, meshes: [{ primitives: [{ attributes: {} }] }] }))).toEqual(['gltf', 'gltf-chains'])
    expect(ids(await squareGlb())).toEqual(['gltf'])
  })

  it('that cannot be are refused with the node, and those at one place left out', () => {
    expect(() => readChains(bytesOf({ nodes: [at(0, 0, 0)] }))).toThrow('has no chain of nodes')
    expect(() => readChains(bytesOf({ nodes: [{ children: [1, 2, 0] }, at(0, 0, 0), at(9, 0, 0)] }))).toThrow(/node 0.*is a part of itself/) // prettier-ignore
    const map = readChains(bytesOf({ nodes: [{ name: 'Knot', children: [1, 2] }, at(1, 0, 0), at(1, 0, 0), { name: 'Way', children: [4, 5] }, at(1, 0, 0), at(3, 0, 0)] })) // prettier-ignore
    expect(map.lanes.map((l) => l.name)).toEqual(['Way'])
    expect(map.repairs).toEqual(['the nodes of Knot lie at one place; it was left out'])
  })
})
