import { readFileSync } from 'node:fs'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { CheckedSurvey } from '@tidytrail/core/checks'
import { distanceToLine, type Point3 } from '@tidytrail/core/geometry'
import { blankLevel, levelSchema, type Level } from '@tidytrail/core/level'
import { laneNet, layLaneMap, measured, pairsOf, placeAt, type LaneMap } from '@tidytrail/core/traffic'
import {
  collisionsIn,
  driven,
  settled,
  withJoins,
  withJunctions,
  withLanes,
  withRoads,
  withStreams,
} from '@tidytrail/core/testing'
import { readGeoJson } from '../geojson/read'
import { writeLanesGeoJson } from '../geojson/write-lanes'
import { readOpenDrive } from './read'
import { referenceLine } from './reference-line'
import { partsNamed, treeOf } from './tree'
import { writeOpenDrive } from './write'

const file = readFileSync(path.resolve(import.meta.dirname, '../../../docs/examples/osier-bends.xodr'), 'utf8')

let ids = 0
const PREFIX = { waypoints: 'wp', routes: 'rt', stops: 'st', junctions: 'jn', links: 'ln' }
const newId = (kind: keyof typeof PREFIX) => `${PREFIX[kind]}_n${ids++}`
const laid = (map: LaneMap, shift: [number, number] = [150, 150]): Level => {
  const empty = { ...blankLevel('Bends', 400, 300), profiles: {} } as Level
  const level = layLaneMap(map, shift, newId as never, undefined).reduce((l, step) => step(l).level, empty)
  return levelSchema.parse(level)
}
const roadWith = (plan: string, rest = '') => treeOf(`<road id="1"><planView>${plan}</planView>${rest}</road>`)
const geometry = (length: number, shape: string, rad = 0, s = 0, x = 0, y = 0) =>
  `<geometry s="${s}" x="${x}" y="${y}" hdg="${rad}" length="${length}">${shape}</geometry>`
const lineWith = (plan: string) => referenceLine(roadWith(plan), [])

describe('the line a road is measured along', () => {
  it('goes round an arc as a circle does', () => {
    const line = lineWith(geometry(100, '<arc curvature="-0.02"/>', Math.PI / 2))
    for (const s of line.stations) {
      const { x, y, rad } = line.at(s)
      expect(Math.hypot(x - 50, y)).toBeCloseTo(50, 6)
      expect(rad).toBeCloseTo(Math.PI / 2 - s / 50, 9)
    }
  })

  it('goes along a clothoid as the series of Fresnel’s integrals has it', () => {
    // From straight on: x = Σ (−1)ⁿ θ²ⁿ s / ((2n)! (4n + 1)), y = Σ (−1)ⁿ θ²ⁿ⁺¹ s / ((2n + 1)! (4n + 3)), θ the angle turned.
    const [length, k] = [60, 0.05]
    const line = lineWith(geometry(length, `<spiral curvStart="0" curvEnd="${k}"/>`))
    for (const s of [5, 20, 41.3, 60]) {
      const turned = (k / length / 2) * s * s
      let [x, y] = [0, 0]
      let term = s
      for (let n = 0; n < 40; n++) {
        const sign = Math.floor(n / 2) % 2 === 0 ? 1 : -1
        if (n % 2 === 0) x += (sign * term) / (2 * n + 1)
        else y += (sign * term) / (2 * n + 1)
        term *= turned / (n + 1)
      }
      const at = line.at(s)
      expect(at.x).toBeCloseTo(x, 6)
      expect(at.y).toBeCloseTo(y, 6)
      expect(at.rad).toBeCloseTo(turned, 9)
    }
  })

  it('is as long along a cubic as it says, and follows one by a parameter', () => {
    const cubic = lineWith(geometry(50, '<poly3 a="0" b="0" c="0.01" d="-0.0001"/>', 0.3))
    let [run, before] = [0, cubic.at(0)]
    for (let s = 0.1; s <= 50.001; s += 0.1) {
      const at = cubic.at(s)
      run += Math.hypot(at.x - before.x, at.y - before.y)
      // It leads where it turns to.
      const rad = Math.atan2(at.y - before.y, at.x - before.x)
      expect(Math.abs(rad - (at.rad + before.rad) / 2)).toBeLessThan(1e-4)
      before = at
    }
    expect(run).toBeCloseTo(50, 3)
    const by = lineWith(geometry(10, '<paramPoly3 aU="0" bU="10" cU="0" dU="0" aV="0" bV="0" cV="2" dV="0" pRange="normalized"/>')) // prettier-ignore
    expect(by.at(5)).toMatchObject({ x: 5, y: 0.5 })
    expect(by.at(10).rad).toBeCloseTo(Math.atan2(4, 10), 9)
  })

  it('goes on from piece to piece', () => {
    const line = lineWith(geometry(30, '<line/>') + geometry(20, '<arc curvature="0.05"/>', 0, 30, 30, 0))
    expect(line.lengthM).toBe(50)
    expect(line.at(30)).toMatchObject({ x: 30, y: 0 })
    expect(line.at(50).rad).toBeCloseTo(1, 9)
  })
})

describe('an OpenDRIVE file', () => {
  it('of the made-up Osier Bends gives its lanes as they lead, with widths, limits, heights and where they are kept to', () => {
    const map = readOpenDrive(file)
    const by = new Map(map.lanes.map((l) => [l.key, l]))
    expect([...by.keys()].sort()).toEqual(['1/0/-1', '1/0/1', '1/0/2', '2/0/-1', '2/0/1', '3/0/-1', '3/1/-2', '3/1/1'])
    expect(by.get('1/0/2')).toMatchObject({ use: 'walk', widthM: 2 })
    expect(by.get('1/0/-1')!.speedLimitMps).toBeCloseTo(50 / 3.6, 9)
    expect(by.get('2/0/-1')!.speedLimitMps).toBe(8)
    expect(by.get('2/0/1')!.speedLimitMps).toBeNull()
    // The right lane of a road leads as it is measured, the left one back.
    const ends = (key: string) => [by.get(key)!.points[0], by.get(key)!.points.at(-1)!]
    const [west] = ends('1/0/-1')
    const at = ([x, y, z]: readonly number[]): Point3 => [west[0] + 80 + x, west[1] + 1.75 + y, z]
    const near = (p: Point3, q: Point3) => p.forEach((v, k) => expect(v).toBeCloseTo(q[k], 2))
    near(ends('1/0/-1')[1], at([-12, -1.75, 2]))
    near(ends('1/0/1')[0], at([-12, 1.75, 2]))
    near(ends('3/1/1')[1], at([1.75, -12, 2]))
    // The end of the bend: the clothoid and 40 m of a circle of 50 m, 5 m up; beside it by half a lane.
    const rad = 0.2 + 0.8
    const [x, y] = [61.9201 + 50 * (Math.sin(rad) - Math.sin(0.2)), 1.3295 - 50 * (Math.cos(rad) - Math.cos(0.2))]
    near(ends('2/0/1')[0], at([x - 1.75 * Math.sin(rad), y + 1.75 * Math.cos(rad), 5]))
    // Two sections in one line are one lane; the one that begins beside it may be changed into as far as the mark is broken.
    expect(measured(by.get('3/0/-1')!.points).lengthM).toBeCloseTo(100, 2)
    expect(by.get('3/0/-1')!.noChange).toEqual(
      [{ fromM: 80, toM: 100, side: 'left' }].map((s) => ({ ...s, side: 'right' })),
    )
    expect(by.get('3/1/-2')!.noChange).toEqual([{ fromM: 40, toM: 60, side: 'left' }])
    expect(map.drivesOn).toBe('right')
    expect(map.junctions).toMatchObject([{ name: 'Osier Corner', lit: true }])
    expect(map.repairs).toEqual(['lanes of the kinds shoulder were left out'])
    expect(map.joins.map((j) => `${j.from} > ${j.to}`).sort()).toEqual([
      '1/0/-1 > 2/0/-1',
      '1/0/-1 > 3/0/-1',
      '2/0/1 > 1/0/1',
      '2/0/1 > 3/0/-1',
      '3/1/1 > 1/0/1',
      '3/1/1 > 2/0/-1',
    ])
  })

  it('laid is a level whose ways lie where the file has them, settled and lit, and driven without a collision', () => {
    const map = readOpenDrive(file)
    const level = laid(map)
    expect(level.settings.drivesOn).toBe('right')
    const net = laneNet(level)
    expect(net.lanes.size).toBe(7)
    expect(net.moves.size).toBe(6)
    for (const move of net.moves.values()) {
      const way = map.joins.find((j) => distanceToLine(j.way!.map(([x, y]) => [x + 150, y + 150]), ...mid(move.line.places)) < 0.05) // prettier-ignore
      expect(way).toBeDefined()
    }
    const [junction] = Object.values(level.junctions)
    expect(junction).toMatchObject({ name: 'Osier Corner', control: 'signals' })
    expect(pairsOf(level, net, junction).filter((p) => p.settled.by === 'nothing')).toEqual([])
    const survey = new CheckedSurvey()
    survey.update(level)
    expect(survey.findings.filter((f) => f.severity === 'blocker' && f.check.startsWith('junction'))).toEqual([])
    const run = driven(withStreams(level, { perH: 200 }), 120)
    expect(collisionsIn(run)).toEqual([])
  })

  it('driven on the left has its lanes the other way', () => {
    const map = readOpenDrive(file.replaceAll('rule="RHT"', 'rule="LHT"'))
    expect(map.drivesOn).toBe('left')
    const [a] = readOpenDrive(file).lanes.filter((l) => l.key === '2/0/-1')
    const [b] = map.lanes.filter((l) => l.key === '2/0/-1')
    expect(b.points).toEqual([...a.points].reverse())
  })

  it('that is none, or says what cannot be, is refused with the line', () => {
    expect(() => readOpenDrive('<osm/>')).toThrow(/line 1.* is no OpenDRIVE file/)
    expect(() => readOpenDrive('<OpenDRIVE><road id="1"></road></OpenDRIVE>')).toThrow('a road has no line')
    expect(() => readOpenDrive('<OpenDRIVE>\n<road id="1"><planView><geometry s="0" x="0" y="q" hdg="0" length="3"><line/></geometry></planView></road></OpenDRIVE>')).toThrow(/line 2.*y of a <geometry> is no number: q/) // prettier-ignore
    expect(() => readOpenDrive('<OpenDRIVE><road id="1"><planView><geometry s="0" x="0" y="0" hdg="0" length="3"/></planView></road></OpenDRIVE>')).toThrow('no shape that is known') // prettier-ignore
    expect(() => readOpenDrive(file.replace('<lane id="2" type="sidewalk">', '<lane id="2.5" type="sidewalk">'))).toThrow(/a lane has the id 2.5, which is no whole number/) // prettier-ignore
    expect(() => readOpenDrive('<OpenDRIVE></OpenDRIVE>')).toThrow('no lane in it')
    expect(() => readOpenDrive(file.replace('id="3" junction="-1"', 'id="2" junction="-1"'))).toThrow(
      'has the id 2 too',
    )
  })
})

describe('lanes written as GeoJSON', () => {
  it('lie where they are, with their ways and what is said of them, as it is read again', () => {
    const bare = withJunctions(withJoins(withRoads({ a: { points: [[100, 200, 0], [180, 200, 1]], speedLimitMps: 9 }, b: { points: [[195, 200, 1], [240, 230, 2]], name: 'Weir' }, c: { points: [[190, 150, 0], [190, 190, 0]] } }))) // prettier-ignore
    const { text } = writeLanesGeoJson(bare)
    const net = laneNet(bare)
    const { features } = readGeoJson(text, { units: 'degrees', originLon: 0, originLat: 0 })
    const lines = features.filter((f) => f.shape === 'line')
    expect(lines).toHaveLength(net.lanes.size + net.moves.size)
    for (const { route, line } of net.lanes.values()) {
      const found = lines.find((f) => f.name === route.name)!
      expect(found.points).toHaveLength(line.places.length)
      found.points.forEach((p, k) => {
        expect(Math.hypot(p[0] - line.places[k][0], p[1] - line.places[k][1])).toBeLessThan(0.002)
        expect(found.zs![k]).toBeCloseTo(line.places[k][2], 3)
      })
    }
    const said = (JSON.parse(text) as { features: { properties: object }[] }).features.map((f) => f.properties)
    expect(said).toContainEqual(expect.objectContaining({ kind: 'lane', road: 'a', speedLimitMps: 9, use: 'drive' }))
    expect(features.filter((f) => f.shape === 'polygon')).toHaveLength(Object.keys(bare.junctions).length)
  })
})

describe('a level written as OpenDRIVE', () => {
  const crossroads = (): Level =>
    settled(
      withJunctions(
        withJoins(
          withRoads({
            w: { points: [[100, 200, 0], [180, 200, 1]] },
            e: { points: [[300, 200, 0], [220, 200, 1]], ahead: 2 },
            n: { points: [[200, 300, 0], [200, 220, 1]], pavementLeftM: 2 },
            s: { points: [[200, 100, 0], [190, 140, 0], [200, 180, 1]], curve: 'smooth' },
          }), // prettier-ignore
        ),
      ),
    )
  /** Of each line of one list, how far it strays from the nearest of the other, metres. */
  const strays = (of: readonly (readonly Point3[])[], to: readonly (readonly Point3[])[]) =>
    of.map((line) => {
      const m = measured(line)
      const apart = (other: readonly Point3[]) => {
        const o = measured(other)
        if (Math.abs(o.lengthM - m.lengthM) > 0.1) return Infinity
        return Math.max(...[0, 0.2, 0.5, 0.8, 1].map((q) => {
          const [p, r] = [placeAt(m, q * m.lengthM), placeAt(o, q * o.lengthM)]
          return Math.hypot(p[0] - r[0], p[1] - r[1], p[2] - r[2])
        })) // prettier-ignore
      }
      return Math.min(...to.map(apart))
    })

  it.each(['left', 'right'] as const)(
    'and read again has the same lanes at the same places, and the same ways between them: driven on the %s',
    (drivesOn) => {
      const bare = crossroads()
      const level = { ...bare, settings: { ...bare.settings, drivesOn } }
      const { text } = writeOpenDrive(level)
      const map = readOpenDrive(text)
      expect(map.drivesOn).toBe(drivesOn)
      const net = laneNet(level)
      const lines = [...net.lanes.values()].map((l) => l.line.places)
      const all = lines.flat()
      // The pavement's lane is wider than what is driven along, and not in the net.
      const walked = map.lanes.filter((l) => l.use === 'walk')
      expect(walked).toHaveLength(1)
      const driven = map.lanes.filter((l) => l.use === 'drive')
      const there = map.lanes.flatMap((l) => l.points)
      const off = [0, 1].map((k) => middleOf(there, k))
      const shifted = (line: readonly Point3[]) => line.map(([x, y, z]): Point3 => [x - off[0] + middleOf(walkedOf(level).concat(all), 0), y - off[1] + middleOf(walkedOf(level).concat(all), 1), z]) // prettier-ignore
      expect(driven).toHaveLength(net.lanes.size)
      for (const m of strays(
        lines,
        driven.map((l) => shifted(l.points)),
      ))
        expect(m).toBeLessThan(0.05)
      expect(map.joins).toHaveLength(net.moves.size)
      const ways = map.joins.map((j) => shifted(j.way!))
      for (const m of strays(
        [...net.moves.values()].map((v) => v.line.places),
        ways,
      ))
        expect(m).toBeLessThan(0.05)
    },
  )

  it('cuts a lane where another leaves it or comes into it, and says what is not in the file', () => {
    const bare = withLanes({ a: [[0, 100, 0], [100, 100, 0], [200, 100, 0]], b: [[110, 110, 0], [190, 150, 0]] }) // prettier-ignore
    const links = { ln_1: { fromId: 'wp_a1', toId: 'wp_b0', twoWay: false } }
    const level = levelSchema.parse({ ...bare, links, junctions: { jn_a: { name: 'J', ring: [[95, 95], [115, 95], [115, 115]] } } }) // prettier-ignore
    const { text, left } = writeOpenDrive(level)
    expect(left).toEqual([])
    const map = readOpenDrive(text)
    expect(map.lanes.map((l) => Math.round(measured(l.points).lengthM)).sort((a, b) => a - b)).toEqual([89, 99, 100])
    expect(map.joins).toHaveLength(2)
  })

  it('says which of two ways through a junction has priority, and what of that it cannot', () => {
    const given = settled(crossroads())
    const { yields } = given.junctions.jn_0
    const { text, left } = writeOpenDrive({ ...given, junctions: { jn_0: { ...given.junctions.jn_0, control: 'give-way' } } }) // prettier-ignore
    expect(left).toEqual([])
    const root = treeOf(text)
    const names = new Map(partsNamed(root, 'road').map((r) => [r.attributes.id, r.attributes.name]))
    const told = partsNamed(root, 'junction').flatMap((j) =>
      partsNamed(j, 'priority').map(({ attributes: { high, low } }) => `${names.get(low)} / ${names.get(high)}`),
    )
    const { moves } = laneNet(given)
    const lane = (id: string) => given.routes[id].name
    const way = (id: string | null) => `${lane(moves.get(id!)!.from)} to ${lane(moves.get(id!)!.to)}`
    expect(told.length).toBeGreaterThan(10)
    expect(told.sort()).toEqual(yields.map((y) => `${way(y.linkId)} / ${way(y.toLinkId)}`).sort())
    const lit = { ...given.junctions.jn_0, control: 'signals' as const }
    expect(writeOpenDrive({ ...given, junctions: { jn_0: lit } }).left).toEqual([expect.stringContaining('signal plans')]) // prettier-ignore
    const first = { ...lit, control: 'all-way' as const, yields: [] }
    expect(writeOpenDrive({ ...given, junctions: { jn_0: first } }).left.join()).toContain('who goes first')
  })

  it('reads back who gives way to whom, also where that is not as usual', () => {
    const given = settled(crossroads())
    // The other way about between every second pair.
    const yields = given.junctions.jn_0.yields.map((y, k) => (k % 2 === 0 ? y : { ...y, linkId: y.toLinkId, toLinkId: y.linkId })) // prettier-ignore
    const told = { ...given, junctions: { jn_0: { ...given.junctions.jn_0, control: 'give-way' as const, yields } } }
    const { text } = writeOpenDrive(told)
    const said = (of: Level) => {
      const { moves, lanes } = laneNet(of)
      // Lanes are told by where they head.
      const heads = (lane: string) => {
        const [[ax, ay], [bx, by]] = [lanes.get(lane)!.line.places[0], lanes.get(lane)!.line.places.at(-1)!]
        return Math.abs(bx - ax) > Math.abs(by - ay) ? (bx > ax ? 'east' : 'west') : by > ay ? 'north' : 'south'
      }
      const way = (id: string | null) => `${heads(moves.get(id!)!.from)} then ${heads(moves.get(id!)!.to)}`
      return Object.values(of.junctions).flatMap((j) => j.yields.map((y) => `${way(y.linkId)} waits for ${way(y.toLinkId)}`)).sort() // prettier-ignore
    }
    expect(said(told).length).toBeGreaterThan(10)
    expect(said(laid(readOpenDrive(text)))).toEqual(said(told))
    // Without what the file says it is as usual.
    expect(said(laid({ ...readOpenDrive(text), priorities: [] }))).not.toEqual(said(told))
  })

  it('has nothing in it but its head where there are no lanes', () => {
    const { text } = writeOpenDrive(blankLevel('Bare <&> "one"'))
    expect(treeOf(text).parts.map((p) => p.name)).toEqual(['header'])
    expect(treeOf(text).parts[0].attributes.name).toBe('Bare <&> "one"')
  })
})

const middleOf = (points: readonly Point3[], k: number) => (Math.min(...points.map((p) => p[k])) + Math.max(...points.map((p) => p[k]))) / 2 // prettier-ignore
const walkedOf = (level: Level): Point3[] =>
  Object.values(level.routes)
    .filter((r) => r.use === 'walk')
    .flatMap((r) => r.order.map((s) => level.waypoints[r.stops[s].waypointId].at as Point3))
const mid = (places: readonly Point3[]): [number, number] => {
  const line = measured(places)
  const [x, y] = placeAt(line, line.lengthM / 2)
  return [x, y]
}
