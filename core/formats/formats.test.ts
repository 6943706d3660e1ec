import { WebIO } from '@gltf-transform/core'
import { encode } from 'fast-png'
import { describe, expect, it } from 'vitest'
import { blankLevel, byRank, readLevel, topRank, type Level } from '@tidytrail/core/level'
import { squareGlb } from '@tidytrail/core/testing'
import {
  FormatError,
  makeFromGeo,
  pictureHead,
  plainly,
  readEsriAscii,
  readGeoJson,
  readGltf,
  readHeightPng,
  readObj,
  type GeoMapping,
} from '.'

const metres = { upAxis: 'z', scale: 1 } as const

/** The JSON of a binary glTF file changed, its lengths kept right. */
function withJson(glb: Uint8Array, change: (json: Record<string, never>) => void): Uint8Array {
  const view = new DataView(glb.buffer, glb.byteOffset)
  const length = view.getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)))
  change(json)
  const text = new TextEncoder().encode(JSON.stringify(json))
  const padded = Math.ceil(text.length / 4) * 4
  const rest = glb.subarray(20 + length)
  const out = new Uint8Array(20 + padded + rest.length).fill(32)
  out.set(glb.subarray(0, 20))
  out.set(text, 20)
  out.set(rest, 20 + padded)
  new DataView(out.buffer).setUint32(8, out.length, true)
  new DataView(out.buffer).setUint32(12, padded, true)
  return out
}

describe('glTF', () => {
  it('comes in with nodes applied, turned from y up to z up, and scaled', async () => {
    const { box, mesh, repairs } = await readGltf(await squareGlb(), { upAxis: 'y', scale: 2 })
    // x stays, height was y, and what lay towards −z now lies north.
    expect([...box.min]).toEqual([20, 0, 10])
    expect([...box.max]).toEqual([24, 6, 10])
    expect(mesh.indices).toHaveLength(6)
    expect(repairs).toEqual([])
  })

  it('keeps triangles facing up when a node mirrors them', async () => {
    const up = async (bytes: Uint8Array) => {
      const { positions: p, indices: i } = (await readGltf(bytes, { upAxis: 'y', scale: 1 })).mesh
      const [a, b, c] = [i[0] * 3, i[1] * 3, i[2] * 3]
      return (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]) > 0
    }
    expect(await up(await squareGlb())).toBe(true)
    expect(await up(await squareGlb((d) => d.getRoot().listNodes()[0].setScale([-1, 1, 1])))).toBe(true)
  })

  it('with its buffers inside as text is read the same', async () => {
    const glb = await squareGlb()
    const { json, resources } = await new WebIO().binaryToJSON(glb)
    const data = Buffer.from(Object.values(resources)[0]).toString('base64')
    const text = JSON.stringify({
      ...json,
      buffers: [{ byteLength: json.buffers![0].byteLength, uri: `data:application/octet-stream;base64,${data}` }],
    })
    const asText = await readGltf(new TextEncoder().encode(text), metres)
    expect(asText.mesh).toEqual((await readGltf(glb, metres)).mesh)
  })

  it.each<[string, (glb: Uint8Array) => Uint8Array, RegExp]>([
    ['cut off', (g) => g.slice(0, g.length - 10), /says \d+ bytes, but the file has \d+: it is cut off/],
    ['no glTF', () => new TextEncoder().encode('hello, this is not one'), /is no glTF/],
    [
      'in several files',
      (g) => withJson(g, (j) => Object.assign(j.buffers[0], { uri: 'deck.bin' })),
      /^buffers\[0\]: its data lies in another file, deck\.bin/,
    ],
    [
      'of a million nodes',
      (g) => withJson(g, (j) => ((j.nodes as unknown[]) = new Array(1_000_000).fill({}))),
      /^nodes: there are 1,000,000; at most 50,000/,
    ],
    [
      'with unknown extensions',
      (g) => withJson(g, (j) => ((j.extensionsRequired as unknown[]) = ['KHR_something'])),
      /KHR_something is needed/,
    ],
  ])('%s is refused, saying where', async (_what, spoil, message) => {
    const bytes = spoil(await squareGlb())
    await expect(readGltf(bytes, metres)).rejects.toThrow(message)
  })

  it('with a coordinate that is no number names the node and vertex', async () => {
    const bytes = await squareGlb((d) => d.getRoot().listAccessors()[0].setElement(2, [NaN, 0, 0]))
    await expect(readGltf(bytes, metres)).rejects.toThrow('node “Deck”, part 1, vertex 2: has a coordinate that is not')
  })
})

describe('OBJ', () => {
  const quad = 'v 0 0 0\nv 4 0 0\nv 4 3 0\nv 0 3 0\n'
  it('faces of any number of corners become triangles that keep their side', () => {
    const { mesh } = readObj(`${quad}v 2 1 0\nf 1 2 3 5 4\n`, metres)
    const { positions: p, indices } = mesh
    let area = 0
    for (let k = 0; k < indices.length; k += 3) {
      const [a, b, c] = [indices[k] * 3, indices[k + 1] * 3, indices[k + 2] * 3]
      const twice = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a])
      expect(twice).toBeGreaterThan(0)
      area += twice / 2
    }
    // The notch takes a triangle of 4 × 2 out of the 4 × 3 rectangle’s top.
    expect(area).toBeCloseTo(12 - 4, 6)
  })
  it('counts vertices from the end, and textures and normals are passed over', () => {
    expect(readObj(`${quad}f -4/1/1 -3//2 -2\n`, metres).mesh.indices).toEqual(Uint32Array.from([0, 1, 2]))
  })
  it('triangles without area are left out, and it says so', () => {
    expect(readObj(`${quad}f 1 2 3\nf 1 2 2\n`, metres).repairs).toEqual(['1 triangle without area left out'])
  })
  it.each([
    ['v 1 2\n', 'line 1: a vertex needs three coordinates, and this has 2'],
    [`${quad}f 1 2 9\n`, 'line 5: the face names vertex 9, and 4 come before it'],
    [`${quad}v 1 nan 2\nf 1 2 5\n`, 'line 5: has a coordinate that is not a number'],
    [`${quad}v 1 1e9 2\n`, 'line 5: lies at 1, 1000000000, 2: more than 100 km away at this scale'],
    [quad, 'has points only (4) and no faces: export it with its faces'],
    ['# nothing\n', 'has no triangles'],
    ['call other.obj\n', 'line 1: “call” runs other files'],
  ])('%j is refused', (text, message) => expect(() => readObj(text, metres)).toThrow(message))
})

describe('height maps', () => {
  const png = (data: Uint16Array | Uint8Array, width: number, height: number, channels: 1 | 3 = 1) =>
    encode({ width, height, data, channels, depth: data instanceof Uint16Array ? 16 : 8 })

  it('of 16 bits run from black to white over the range, north at the top', () => {
    const { grid } = readHeightPng(png(Uint16Array.from([0, 65535, 32768, 0]), 2, 2), { lowM: -10, highM: 10 })
    expect([...grid.z].map((v) => +v.toFixed(2))).toEqual([0, -10, -10, 10])
  })
  it.each<[string, () => Uint8Array, string]>([
    [
      'cut off',
      () =>
        png(
          Uint16Array.from({ length: 4096 }, (_, k) => (k * 7919) % 65536),
          64,
          64,
        ).slice(0, 900),
      'damaged',
    ],
    [
      'of 50,000 pixels',
      () => {
        const bytes = png(new Uint16Array(4), 2, 2)
        new DataView(bytes.buffer).setUint32(16, 50_000)
        return bytes
      },
      'the picture is 50,000 × 2 pixels; at most 16,384 on a side',
    ],
  ])('%s are refused', (_what, make, message) =>
    expect(() => readHeightPng(make(), { lowM: 0, highM: 1 })).toThrow(message),
  )

  const grid = (rows: string) =>
    `ncols 3\nnrows 2\nxllcorner 100\nyllcorner 50\ncellsize 2\nNODATA_value -9999\n${rows}`
  it('as an Esri ASCII grid come south row first, with their place', () => {
    const read = readEsriAscii(grid('1 2 3\n4 5 6\n'))
    expect([...read.grid.z]).toEqual([4, 5, 6, 1, 2, 3])
    expect(read).toMatchObject({ spacingM: 2, origin: [101, 51], repairs: [] })
  })
  it('have their gaps filled from around them, and say so', () => {
    const read = readEsriAscii(grid('1 -9999 3\n4 5 6\n'))
    expect(read.grid.z[4]).toBeCloseTo((1 + 3 + 5) / 3, 5)
    expect(read.repairs).toEqual(['1 sample without data filled in from around them'])
  })
  it.each([
    [grid('1 2 3\n4 5\n'), 'the file ends after 5 of 6 samples'],
    [grid('1 2 3\n4 5 x\n'), 'line 8: “x” is not a number'],
    [grid('1 2 3\n4 5 6 7\n'), 'line 8: has more than the 6 samples'],
    [grid('1 2 3\n4 5 -9999999\n'), 'line 8: the height -9999999 is beyond 100 km; is it a no-data value'],
    [grid('-9999 nan -9999\n-9999 NaN -9999\n'), 'none of its samples has data'],
    ['ncols 3\ncellsize 1\n1 2 3', 'head: nrows is missing'],
    ['ncols 50000\nnrows 2\ncellsize 1\n1', 'head: ncols is 50000; 2 to 8192 are read'],
  ])('%j is refused', (text, message) => expect(() => readEsriAscii(text)).toThrow(message))
})

describe('GeoJSON', () => {
  const feature = (geometry: object, properties: object = {}) => ({ type: 'Feature', geometry, properties })
  const collection = (...features: object[]) => JSON.stringify({ type: 'FeatureCollection', features })
  const ring = [
    [0, 0],
    [10, 0],
    [10, 5],
    [0, 5],
    [0, 0],
  ]
  const inMetres = { units: 'metres' } as const
  const plain: GeoMapping = {
    polygons: 'nothing',
    lines: 'nothing',
    points: 'nothing',
    profileId: 'pf_a',
    useHeights: true,
    heightM: 3,
    wallM: 0.2,
    coverKind: 'road',
    coverRank: 0,
    shift: [0, 0],
  }

  it('becomes solids, covers, areas and routes that make a sound level', () => {
    const text = collection(
      feature({ type: 'Polygon', coordinates: [ring] }, { name: 'Net shed', height: 4.5 }),
      feature({ type: 'LineString', coordinates: [...ring] }, { name: 'Round' }),
    )
    const { features } = readGeoJson(text, inMetres)
    let n = 0
    for (const polygons of ['solids', 'covers', 'reachAreas'] as const) {
      const level = structuredClone(blankLevel('Import')) as Level
      for (const thing of makeFromGeo(
        features,
        { ...plain, polygons, lines: 'routes', shift: [20, 10] },
        (kind) =>
          `${{ waypoints: 'wp', stops: 'st', routes: 'rt', solids: 'sd', covers: 'cv', reachAreas: 'ra' }[kind as 'stops']}_${++n}`,
        () => 1.5,
      ))
        (level[thing.in] as Record<string, unknown>)[thing.id] = thing.thing
      const read = readLevel(JSON.parse(JSON.stringify(level)))
      const [polygon] = Object.values(read[polygons])
      expect(polygon).toMatchObject({ name: 'Net shed', ring: expect.arrayContaining([[20, 10]]) })
      if (polygons === 'solids') expect(polygon).toMatchObject({ heightM: 4.5, baseM: 1.5 })
      const [route] = Object.values(read.routes)
      expect(route).toMatchObject({ name: 'Round', travel: 'round' })
      expect(route.order).toHaveLength(4)
    }
  })

  it('becomes lanes that are driven along as they are drawn, in the order of their places', () => {
    const line = feature({ type: 'LineString', coordinates: [[0, 0], [30, 4], [60, 0]] }, { name: 'East' }) // prettier-ignore
    const { features } = readGeoJson(collection(line), inMetres)
    let n = 0
    const things = makeFromGeo(features, { ...plain, lines: 'lanes' }, () => `id_${++n}`, () => 0) // prettier-ignore
    const { thing } = things.find((t) => t.in === 'routes')!
    expect(thing).toMatchObject({ name: 'East', kind: 'lane', legs: 'drawn', curve: 'smooth', travel: 'one-way' })
    const places = things.filter((t) => t.in === 'waypoints').map((t) => (t.thing as { at: number[] }).at)
    expect(places).toEqual([[0, 0, 0], [30, 4, 0], [60, 0, 0]]) // prettier-ignore
  })

  it('covers lie over one another as they follow in the file, and over those the level has', () => {
    const square = (name: string, x: number) =>
      feature(
        {
          type: 'Polygon',
          coordinates: [
            [
              [x, 0],
              [x + 9, 0],
              [x + 9, 9],
              [x, 0],
            ],
          ],
        },
        { name },
      )
    const { features } = readGeoJson(collection(square('Grass', 0), square('Path', 3), square('Puddle', 5)), {
      units: 'metres',
    })
    const covers = { cv_old: { name: 'Old', rank: 6 } }
    let n = 9
    const made = makeFromGeo(
      features,
      { ...plain, polygons: 'covers', coverRank: topRank(covers) },
      () => `cv_${n--}`,
      () => 0,
    )
    const all = { ...covers, ...Object.fromEntries(made.map((m) => [m.id, m.thing as { name: string; rank: number }])) }
    expect(byRank(all).map(([, c]) => c.name)).toEqual(['Old', 'Grass', 'Path', 'Puddle'])
  })

  it.each([0, 12, 47, -33.5, 60, 71])(
    'in degrees lies about the origin, to a centimetre a kilometre at latitude %f',
    (lat) => {
      // The lengths of a degree as series in the latitude, as geodesy books have them for WGS 84.
      const phi = (lat * Math.PI) / 180
      const north = 111132.954 - 559.822 * Math.cos(2 * phi) + 1.175 * Math.cos(4 * phi) - 0.0023 * Math.cos(6 * phi)
      const east = 111412.84 * Math.cos(phi) - 93.5 * Math.cos(3 * phi) + 0.118 * Math.cos(5 * phi)
      const [dx, dy] = [1000 / east, 1000 / north]
      const line = collection(
        feature({
          type: 'LineString',
          coordinates: [
            [5, lat],
            [5 + dx, lat],
            [5, lat + dy],
          ],
        }),
      )
      const [f] = readGeoJson(line, { units: 'degrees', originLon: 5, originLat: lat }).features
      expect(f.points[0]).toEqual([0, 0])
      expect(Math.abs(f.points[1][0] - 1000)).toBeLessThan(0.01)
      expect(Math.abs(f.points[2][1] - 1000)).toBeLessThan(0.01)
    },
  )

  it('a bad ring is left out and told of, and the others are taken', () => {
    const bow = [
      [0, 0],
      [10, 5],
      [10, 0],
      [0, 5],
      [0, 0],
    ]
    const { features, repairs } = readGeoJson(
      collection(feature({ type: 'MultiPolygon', coordinates: [[ring], [bow], [ring]] }, { name: 'Sheds' })),
      inMetres,
    )
    expect(features).toHaveLength(2)
    expect(repairs).toEqual(['feature 1 “Sheds” was left out: its ring crosses itself near 5.0, 2.5 m'])
  })

  it('of a national grid is brought near by an offset', () => {
    const far = feature({ type: 'Point', coordinates: [412_345.6, 5_654_321] })
    expect(() => readGeoJson(collection(far), inMetres)).toThrow('more than 100 km away')
    const [f] = readGeoJson(collection(far), { units: 'metres', offset: [412_300, 5_654_300] }).features
    expect(f.points[0]).toEqual([45.6, 21])
  })

  it('points become markers, spawners or the stops of a route, at the heights of the file or on the ground', () => {
    const { features } = readGeoJson(
      collection(
        feature({ type: 'Point', coordinates: [1, 2, 7] }, { name: 'Bell' }),
        feature({ type: 'MultiPoint', coordinates: [[3, 4, 8]] }),
      ),
      inMetres,
    )
    const make = (more: Partial<GeoMapping>) => {
      let n = 0
      return makeFromGeo(
        features,
        { ...plain, ...more },
        (kind) => `${kind.slice(0, 2)}_${++n}`,
        () => 1.5,
      )
    }
    expect(make({ points: 'markers' })).toMatchObject([
      { in: 'markers', thing: { name: 'Bell', at: [1, 2, 7] } },
      { in: 'markers', thing: { name: 'Place 1', at: [3, 4, 8] } },
    ])
    expect(make({ points: 'spawners', useHeights: false })).toMatchObject([
      { in: 'spawners', thing: { name: 'Bell', at: [1, 2, 1.5], profileId: 'pf_a' } },
      { in: 'spawners', thing: { at: [3, 4, 1.5] } },
    ])
    const stops = make({ points: 'stops' })
    expect(stops.map((t) => t.in)).toEqual(['waypoints', 'waypoints', 'routes'])
    expect(stops[0].thing).toMatchObject({ name: 'Bell', at: [1, 2, 7] })
    expect(stops[2].thing).toMatchObject({ order: [expect.any(String), expect.any(String)], travel: 'one-way' })
    const nodes = make({ points: 'nodes' })
    expect(nodes.map((t) => t.in)).toEqual(['waypoints', 'waypoints', 'routes'])
    expect(nodes[2].thing).toMatchObject({ name: 'Imported network', kind: 'network', linkIds: [] })
    expect(make({})).toEqual([])
  })

  it('says what it mended', () => {
    const open = ring.slice(0, 4)
    const hole = [
      [2, 2],
      [3, 2],
      [3, 3],
      [2, 2],
    ]
    const { repairs } = readGeoJson(collection(feature({ type: 'Polygon', coordinates: [open, hole] })), inMetres)
    expect(repairs).toEqual([
      'feature 1: its ring was open and has been closed',
      'feature 1: 1 hole filled, since a solid or cover has none',
    ])
  })

  it.each<[object, string]>([
    [
      {
        type: 'Polygon',
        coordinates: [
          [
            [0, 0],
            [10, 5],
            [10, 0],
            [0, 5],
            [0, 0],
          ],
        ],
      },
      'feature 1: its ring crosses itself near 5.0, 2.5 m',
    ],
    [{ type: 'Blob', coordinates: [] }, 'feature 1: “Blob” is no kind of geometry'],
    [
      {
        type: 'LineString',
        coordinates: [
          [0, '1'],
          [2, 3],
        ],
      },
      'feature 1: [0,"1"] is no position of two numbers',
    ],
    [
      {
        type: 'LineString',
        coordinates: [
          [0, 0],
          [1e9, 3],
        ],
      },
      'feature 1: a corner lies at 1.00000e+9, 3.00000 m: more than 100 km away; is it in metres, and the offset right?',
    ],
    [
      {
        type: 'Polygon',
        coordinates: [
          [
            [0, 0],
            [1, 1],
          ],
        ],
      },
      'feature 1: a ring needs three different corners',
    ],
  ])('%j is refused', (geometry, message) =>
    expect(() => readGeoJson(collection(feature(geometry)), inMetres)).toThrow(message),
  )
})

it('pictures are known by their head: what they are and how large', () => {
  const png = encode({ width: 30, height: 20, data: new Uint8Array(1800), channels: 3, depth: 8 })
  expect(pictureHead(png)).toMatchObject({ type: 'image/png', width: 30, height: 20, grey: false })
  const jpeg = Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 2, 0xff, 0xc0, 0, 11, 8, 0, 40, 0, 60, 3, 1, 2, 3, 4])
  expect(pictureHead(jpeg)).toMatchObject({ type: 'image/jpeg', width: 60, height: 40 })
  expect(() => pictureHead(new Uint8Array(64))).toThrow('is neither a PNG nor a JPEG')
})

describe('a reader that stumbles', () => {
  it.each([
    [new TypeError("Cannot read properties of undefined (reading 'startsWith')"), 'is not built as the format says'],
    [new RangeError('Invalid typed array length: 4294967295'), 'asks for more memory than there is'],
    [new Error('t.primitives is not iterable'), 'is not built as the format says'],
  ])('%s is told in our own words', async (error, words) => {
    const read = () => {
      throw error
    }
    await expect(plainly('glTF', read)).rejects.toThrow(new RegExp(`^this glTF file ${words}`))
    await expect(plainly('glTF', () => Promise.reject(error))).rejects.toThrow(words)
  })

  it('says what it found wrong itself, and gives back what it read', async () => {
    const fault = new FormatError('node 3', 'has no mesh')
    await expect(plainly('glTF', () => Promise.reject(fault))).rejects.toBe(fault)
    expect(await plainly('OBJ', () => 7)).toBe(7)
  })
})
