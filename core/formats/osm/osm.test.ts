import { readFileSync } from 'node:fs'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { CheckedSurvey } from '@tidytrail/core/checks'
import { blankLevel, levelSchema, type Level } from '@tidytrail/core/level'
import { laneNet, layStreets, pairsOf } from '@tidytrail/core/traffic'
import { collisionsIn, driven, withStreams } from '@tidytrail/core/testing'
import { readOsm } from './read'

const file = readFileSync(path.resolve(import.meta.dirname, '../../../docs/examples/tansy-ford.osm'), 'utf8')

let ids = 0
const newId = (kind: string) => `${{ roads: 'rd', routes: 'rt', junctions: 'jn', links: 'ln' }[kind]}_n${ids++}`
/** The streets of a file laid in an empty level, in the middle of it. */
function laid(text: string): { level: Level; repairs: string[] } {
  const { steps, repairs } = layStreets(readOsm(text), [300, 250], newId as never, () => 0)
  const level = steps.reduce((l, step) => step(l).level, { ...blankLevel('Ford', 600, 500), profiles: {} } as Level)
  return { level: levelSchema.parse(level), repairs }
}
const osm = (inner: string) => `<osm version="0.6">${inner}</osm>`
const node = (id: number, x: number, y: number) => `<node id="${id}" lon="${x / 65000}" lat="${y / 111000}"/>`
const way = (ids: number[], tags: Record<string, string>) =>
  `<way id="${ids.join('')}">${ids.map((i) => `<nd ref="${i}"/>`).join('')}${Object.entries(tags)
    .map(([k, v]) => `<tag k="${k}" v="${v}"/>`)
    .join('')}</way>`
const line = node(1, 0, 0) + node(2, 100, 0) + node(3, 200, 0)

describe('an OpenStreetMap file', () => {
  it('of the made-up town of Tansy Ford becomes streets, cut where they meet, with what is said of them', () => {
    const { streets, rings, signals, wide } = readOsm(file)
    const named = (name: string) => streets.filter((s) => s.name === name)
    expect(new Set(streets.map((s) => s.name))).toEqual(
      new Set(['Ford Street', 'Tansy Row', 'Weir Road', 'North Weir', 'Mill Lane', 'Back Lane']),
    )
    expect(rings).toMatchObject([{ name: 'Weir Ring', lanes: 1 }])
    expect(rings[0].points).toHaveLength(8)
    expect(signals).toHaveLength(1)
    expect(named('Ford Street')[0]).toMatchObject({ ahead: 1, back: 1, pavementLeftM: 2, pavementRightM: 2 })
    expect(named('Ford Street')[0].speedLimitMps).toBeCloseTo(50 / 3.6, 1)
    expect(named('Weir Road')[0].speedLimitMps).toBeCloseTo(30 * 0.44704, 1)
    // Driven against the order of its nodes: it leads from the mill to Tansy Row.
    expect(named('Back Lane')[0]).toMatchObject({ ahead: 1, back: 0, startKey: '32', endKey: '12' })
    expect(named('Tansy Row').map((s) => s.pavementLeftM)).toContain(2)
    // Made for 500 × 330 metres, by the formulas of the ellipsoid.
    expect(wide[0]).toBeCloseTo(500, 0)
    expect(wide[1]).toBeCloseTo(360, 0)
  })

  it('laid as roads is joined, settled and lit, and driven without a collision', () => {
    const { level, repairs } = laid(file)
    expect(repairs).toEqual([])
    expect(Object.keys(level.roads).length).toBeGreaterThanOrEqual(8)
    const net = laneNet(level)
    expect(
      Object.values(level.junctions)
        .map((j) => j.control)
        .sort(),
    ).toContain('signals')
    for (const junction of Object.values(level.junctions))
      expect(pairsOf(level, net, junction).filter((p) => p.settled.by === 'nothing')).toEqual([])
    const survey = new CheckedSurvey()
    survey.update(level)
    expect(survey.findings.filter((f) => f.severity === 'blocker')).toEqual([])
    expect(collisionsIn(driven(withStreams(level, { perH: 120 }), 120))).toEqual([])
  })

  it('has ways that only go on as one road, and those that differ as two', () => {
    const roads = (a: Record<string, string>, b: Record<string, string>) =>
      Object.values(laid(osm(line + way([1, 2], { highway: 'residential', name: 'A', ...a }) + way([2, 3], { highway: 'residential', name: 'A', ...b }))).level.roads) // prettier-ignore
    expect(roads({}, {})).toHaveLength(1)
    expect(roads({}, {})[0].points).toHaveLength(3)
    expect(roads({}, { lanes: '4' })).toHaveLength(2)
    expect(roads({}, { lanes: '4' }).map((r) => [r.ahead, r.back])).toEqual([
      [1, 1],
      [2, 2],
    ])
  })

  it.each([
    [{ oneway: 'yes' }, 1, 0],
    [{ lanes: '3' }, 2, 1],
    [{ 'lanes:forward': '1', 'lanes:backward': '3' }, 1, 3],
    [{ oneway: 'yes', lanes: '2' }, 2, 0],
    [{ lanes: '40' }, 3, 3],
    [{ lanes: 'many' }, 1, 1],
  ])('has lanes as %o says', (tags, ahead, back) => {
    const [street] = readOsm(osm(line + way([1, 2, 3], { highway: 'residential', ...tags }))).streets
    expect([street.ahead, street.back]).toEqual([ahead, back])
  })

  it.each([
    ['', 'document must contain a root element'],
    ['<osm version="0.6"></osm>', 'has no way in it that is driven along'],
    ['<gpx></gpx>', 'line 1: begins with <gpx>, and is no OpenStreetMap file'],
    ['<osm><node id="1" lat="0" lon="0"></osm>', 'line 1: is no XML'],
    ['<osm>\n<node id="1" lat="95" lon="0"/></osm>', 'line 2: node 1 lies at no longitude and latitude'],
    ['<osm>\n<way id="1">\n<way id="2"/></way></osm>', 'line 3: a way lies within another'],
    ['<osm><node lat="5" lon="0"/></osm>', 'line 1: a node has no id'],
    [
      '<!DOCTYPE osm [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]>\n<osm><node id="&b;" lat="0" lon="0"/></osm>',
      'line 2: is no XML: undefined entity',
    ],
    [`${'<osm>'.repeat(100)}`, 'deep in each other'],
  ])('that is no good is refused in a sentence that says where: %s', (text, why) => {
    expect(() => readOsm(text)).toThrow(why)
  })

  it('with nodes that are not in it is read without them, and says so; one of no length is left out', () => {
    const read = readOsm(osm(line + way([1, 2, 99], { highway: 'service' }) + way([3, 98], { highway: 'service' })))
    expect(read.streets).toHaveLength(1)
    expect(read.repairs.join()).toContain('1 of its nodes are not in the file')
    expect(read.repairs.join()).toContain('fewer than two nodes')
    const ring = way([1, 2, 3, 1], { highway: 'primary', junction: 'roundabout', name: 'Wide ring', lanes: '2' })
    expect(laid(osm(line + ring + way([1, 2], { highway: 'service' }))).repairs.join()).toContain(
      'Wide ring has 2 lanes',
    )
    const short = osm(node(1, 0, 0) + node(2, 2, 0) + way([1, 2], { highway: 'service', name: 'Stub' }))
    expect(laid(short).repairs.join()).toContain('Stub of 3.4 m is too short to be a road')
  })
})
