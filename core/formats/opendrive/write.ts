import { boxOf, distance2, exact, type Point3 } from '@tidytrail/core/geometry'
import type { Level, Route } from '@tidytrail/core/level'
import { laneNet, measured, partOf, type MeasuredLine, type NetMove } from '@tidytrail/core/traffic'

/** A piece of a lane, between the places where others leave it or come into it. */
interface Piece {
  readonly lane: Route
  readonly name: string
  readonly line: MeasuredLine
  /** What of its beginning lies in a junction, metres. */
  carvedM: number
}

interface Edge {
  readonly from: number
  readonly to: number
  readonly line: MeasuredLine | undefined
  /** The link between lanes it is, if it is one. */
  readonly linkId?: string
}

/** Straight on through a junction leads a road of this length, metres, or a third of the lane. */
const CARVED_M = 1
const ONE_PLACE_M = 0.05
const DIGITS = 10

const said = (value: number): string => String(Number(value.toFixed(DIGITS)))
/** As it may stand in an attribute: XML has no control characters at all. */
const escaped = (text: string): string =>
  [...text]
    .map((c) => (c < ' ' ? ' ' : c))
    .join('')
    .replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!)

/**
 * The lanes of a level as an ASAM OpenDRIVE 1.6 file: each lane a road with one lane about its middle, cut where others
 * leave it or come into it; every join a road through a junction, with which of two has priority. Lines are written as they are, places joined straight.
 * @returns the file, and what of the level is not in it
 */
export function writeOpenDrive(level: Level): { text: string; left: string[] } {
  const net = laneNet(level)
  const pieces: Piece[] = []
  const edges: Edge[] = []
  /** The pieces of each lane with where they begin and end along it. */
  const of = new Map<string, { number: number; fromM: number; toM: number }[]>()
  const cut = (id: string, lane: Route, line: MeasuredLine, closed: boolean, at: readonly number[]): void => {
    const marks = [0, ...[...at].sort((a, b) => a - b), line.lengthM].filter((m, k, all) => k === 0 || m - all[k - 1] > ONE_PLACE_M) // prettier-ignore
    const own = marks.slice(1).map((toM, k) => {
      pieces.push({ lane, name: marks.length > 2 ? `${lane.name}, ${k + 1}` : lane.name, line: partOf(line, { fromM: marks[k], toM }), carvedM: 0 }) // prettier-ignore
      return { number: pieces.length - 1, fromM: marks[k], toM }
    })
    of.set(id, own)
    own.forEach((p, k) => {
      const next = own[k + 1] ?? (closed ? own[0] : undefined)
      if (next) edges.push({ from: p.number, to: next.number, line: undefined })
    })
  }
  for (const lane of net.lanes.values()) {
    const at = [...(net.out.get(lane.id) ?? []).map((m) => m.fromM), ...(net.into.get(lane.id) ?? []).map((m) => m.toM)]
    cut(lane.id, lane.route, lane.line, lane.closed, at.filter((m) => m > ONE_PLACE_M && m < lane.line.lengthM - ONE_PLACE_M)) // prettier-ignore
  }
  for (const [id, route] of Object.entries(level.routes)) {
    if (route.kind !== 'lane' || route.use !== 'walk' || route.order.length < 2) continue
    const line = measured(route.order.map((s) => level.waypoints[route.stops[s].waypointId].at))
    if (line.places.length > 1) cut(id, route, line, false, [])
  }
  const ending = (move: NetMove) => of.get(move.from)!.find((p) => Math.abs(p.toM - move.fromM) <= 2 * ONE_PLACE_M)
  const beginning = (move: NetMove) => of.get(move.to)!.find((p) => Math.abs(p.fromM - move.toM) <= 2 * ONE_PLACE_M)
  for (const move of net.moves.values()) {
    const [from, to] = [ending(move), beginning(move)]
    if (from && to) edges.push({ from: from.number, to: to.number, line: move.line.lengthM > ONE_PLACE_M ? move.line : undefined, ...(move.linkId && { linkId: move.linkId }) }) // prettier-ignore
  }
  const { text, priorities } = fileOf(level, pieces, edges)
  return { text, left: leftOut(level, pieces, priorities) }
}

function leftOut(level: Level, pieces: readonly Piece[], priorities: number): string[] {
  const left: string[] = []
  const junctions = Object.values(level.junctions)
  const yields = junctions.reduce((sum, j) => sum + j.yields.length, 0)
  if (junctions.some((j) => j.control === 'signals')) left.push('signal plans, which OpenDRIVE has no place for')
  if (junctions.some((j) => j.control === 'all-way' || j.control === 'side') || yields > priorities)
    left.push('who goes first where it is not one way through a junction before another')
  if (pieces.some((p) => p.lane.noChange.length > 0)) left.push('where lanes may be changed: each is a road of its own')
  if (pieces.some((p) => p.lane.halts.length > 0)) left.push('platforms and parking places')
  return left
}

function fileOf(level: Level, pieces: readonly Piece[], edges: readonly Edge[]): { text: string; priorities: number } {
  const outs = pieces.map(() => 0)
  const ins = pieces.map(() => 0)
  for (const { from, to } of edges) {
    outs[from]++
    ins[to]++
  }
  // Where it goes straight on from one into one, the roads follow each other; all else leads through junctions.
  const direct = edges.filter((e) => !e.line && outs[e.from] === 1 && ins[e.to] === 1)
  const straight = new Set(direct)
  const through = edges.filter((e) => !straight.has(e))
  const groups = grouped(through)
  for (const e of through) if (!e.line) pieces[e.to].carvedM = Math.min(CARVED_M, pieces[e.to].line.lengthM / 3)
  const after = new Map(direct.map((e) => [e.from, e.to]))
  const before = new Map(direct.map((e) => [e.to, e.from]))
  const groupOut = new Map(groups.flatMap((g, k) => g.map((e) => [e.from, k] as const)))
  const groupInto = new Map(groups.flatMap((g, k) => g.map((e) => [e.to, k] as const)))
  const firstThrough = pieces.length + 1
  const ends = (p: number): string => {
    const link = (name: string, road: number | undefined, junction: number | undefined, at: string) =>
      road !== undefined
        ? `<${name} elementType="road" elementId="${road + 1}" contactPoint="${at}"/>`
        : junction !== undefined
          ? `<${name} elementType="junction" elementId="${junction + 1}"/>`
          : ''
    return (
      link('predecessor', before.get(p), groupInto.get(p), 'end') +
      link('successor', after.get(p), groupOut.get(p), 'start')
    )
  }
  const rule = level.settings.drivesOn === 'left' ? 'LHT' : 'RHT'
  const lines = pieces.map((p) => partOf(p.line, { fromM: p.carvedM, toM: p.line.lengthM }))
  const roads = pieces.map(
    (p, k) =>
    roadText({ id: k + 1, name: p.name, junction: -1, rule, link: ends(k), lane: p.lane, line: lines[k], links: [before.has(k), after.has(k)] }), // prettier-ignore
  )
  const junctions: string[] = []
  // Who gives way is said by the roads through a junction that links became.
  const waits = new Map<string, string[]>()
  for (const { linkId, toLinkId } of Object.values(level.junctions).flatMap((j) => j.yields))
    if (linkId !== null && toLinkId !== null) waits.set(linkId, [...(waits.get(linkId) ?? []), toLinkId])
  let priorities = 0
  let id = firstThrough
  groups.forEach((group, g) => {
    const roadOf = new Map(group.map((e, k) => [e.linkId, id + k]))
    const first = group.flatMap(({ linkId }) => {
      const highs = (waits.get(linkId ?? '') ?? []).flatMap((to) => roadOf.get(to) ?? [])
      return highs.map((high) => `<priority high="${high}" low="${roadOf.get(linkId)}"/>`)
    })
    priorities += first.length
    const connections = group.map((e, k) => {
      const to = pieces[e.to]
      const start = partOf(to.line, { fromM: 0, toM: to.carvedM }).places
      const places = [...(e.line?.places ?? []), ...(to.carvedM > 0 ? start : [])]
      const link = `<predecessor elementType="road" elementId="${e.from + 1}" contactPoint="end"/><successor elementType="road" elementId="${e.to + 1}" contactPoint="start"/>`
      roads.push(roadText({ id, name: `${pieces[e.from].name} to ${to.name}`, junction: g + 1, rule, link, lane: pieces[e.from].lane, line: measured(places), links: [true, true] })) // prettier-ignore
      const lane = rule === 'LHT' ? 1 : -1
      return `<connection id="${k}" incomingRoad="${e.from + 1}" connectingRoad="${id++}" contactPoint="start"><laneLink from="${lane}" to="${lane}"/></connection>`
    })
    junctions.push(
      `<junction id="${g + 1}" name="Junction ${g + 1}">${connections.join('')}${first.join('')}</junction>`,
    )
  })
  const box = boxOf(lines.length > 0 ? lines.flatMap((l) => l.places) : [[0, 0]])
  const header = `<header revMajor="1" revMinor="6" name="${escaped(level.name)}" version="1" north="${said(box.maxY)}" south="${said(box.minY)}" east="${said(box.maxX)}" west="${said(box.minX)}" vendor="Tidy Trail"/>`
  const text = `<?xml version="1.0" encoding="UTF-8"?>\n<OpenDRIVE>\n${header}\n${[...roads, ...junctions].join('\n')}\n</OpenDRIVE>\n`
  return { text, priorities }
}

/** Ways that begin or end at the same piece are of one junction. */
function grouped(edges: readonly Edge[]): Edge[][] {
  const root = new Map<string, string>()
  const find = (key: string): string => {
    let at = key
    while ((root.get(at) ?? at) !== at) at = root.get(at)!
    return at
  }
  for (const e of edges) root.set(find(`${e.from} end`), find(`${e.to} start`))
  const groups = new Map<string, Edge[]>()
  for (const e of edges) {
    const key = find(`${e.from} end`)
    const group = groups.get(key)
    if (group) group.push(e)
    else groups.set(key, [e])
  }
  return [...groups.values()]
}

interface RoadText {
  readonly id: number
  readonly name: string
  readonly junction: number
  readonly rule: 'LHT' | 'RHT'
  readonly link: string
  readonly lane: Route
  readonly line: MeasuredLine
  /** Does its lane go on from that of the road before it, and into that of the one after? */
  readonly links: readonly [boolean, boolean]
}

function roadText({ id, name, junction, rule, link, lane, line, links }: RoadText): string {
  const { places, s, lengthM } = line
  const id1 = rule === 'LHT' ? 1 : -1
  const wide = lane.widthM || 3
  const pieces = places.slice(1).map((b, k) => {
    const a = places[k]
    const rad = exact.atan2(b[1] - a[1], b[0] - a[0])
    return `<geometry s="${said(s[k])}" x="${said(a[0])}" y="${said(a[1])}" hdg="${said(rad)}" length="${said(distance2(a, b))}"><line/></geometry>`
  })
  const rise = (a: Point3, b: Point3) => (b[2] - a[2]) / Math.max(1e-9, distance2(a, b))
  const heights = places.slice(1).map((b, k) => `<elevation s="${said(s[k])}" a="${said(places[k][2])}" b="${said(rise(places[k], b))}" c="0" d="0"/>`) // prettier-ignore
  const speed = lane.speedLimitMps === null ? '' : `<speed sOffset="0" max="${said(lane.speedLimitMps)}" unit="m/s"/>`
  const own = (links[0] ? `<predecessor id="${id1}"/>` : '') + (links[1] ? `<successor id="${id1}"/>` : '')
  const body = `<lane id="${id1}" type="${lane.use === 'walk' ? 'sidewalk' : 'driving'}" level="false">${own ? `<link>${own}</link>` : ''}<width sOffset="0" a="${said(wide)}" b="0" c="0" d="0"/>${speed}</lane>`
  const side = id1 > 0 ? 'left' : 'right'
  const center = '<center><lane id="0" type="none" level="false"/></center>'
  const sides = id1 > 0 ? `<${side}>${body}</${side}>${center}` : `${center}<${side}>${body}</${side}>`
  return [
    `<road name="${escaped(name)}" length="${said(lengthM)}" id="${id}" junction="${junction}" rule="${rule}">`,
    link && `<link>${link}</link>`,
    `<planView>${pieces.join('')}</planView>`,
    `<elevationProfile>${heights.join('')}</elevationProfile>`,
    `<lanes><laneOffset s="0" a="${said((-id1 * wide) / 2)}" b="0" c="0" d="0"/><laneSection s="0">${sides}</laneSection></lanes>`,
    '</road>',
  ].join('')
}
