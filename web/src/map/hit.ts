import type { Finding } from '@tidytrail/core/checks'
import { besideLine, distanceToLine, distanceToRing, distanceToSegment, ringHolds } from '@tidytrail/core/geometry'
import { terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import type { Suggestion } from '@tidytrail/core/reach'
import { courseOf } from '@tidytrail/core/network'
import type { RouteWays } from '../workers/surveyor.protocol'
import { underlayRing } from '../kinds/mesh/draw'
import { looseWaypoints } from '../kinds/link/draw'
import { bowMiddle } from '../kinds/passage/draw'
import { toScreenX, toScreenY, type Viewport } from './viewport'

/** What lies under the pointer. */
export type Hit =
  | { kind: 'stop'; id: string; routeId: string; waypointId: string }
  | { kind: 'spawner'; id: string }
  | { kind: 'agent'; id: string }
  | { kind: 'finding'; id: string; finding: Finding }
  | { kind: 'leg'; id: string; leg: number }
  | { kind: 'link'; id: string }
  /** A waypoint that belongs to no route and no link. */
  | { kind: 'waypoint'; id: string }
  | { kind: 'solid'; id: string }
  | { kind: 'mesh'; id: string }
  | { kind: 'cover'; id: string }
  | { kind: 'area'; id: string }
  | { kind: 'underlay'; id: string }
  | { kind: 'place'; id: string }
  | { kind: 'passage'; id: string; end?: 'from' | 'to' }
  | { kind: 'suggestion'; id: string; index: number }

export type HitKind = Hit['kind']

export interface HitScene {
  level: Level
  view: Viewport
  ways: ReadonlyMap<string, RouteWays>
  findings: readonly Finding[]
  agents: readonly { id: string; x: number; y: number }[]
  shown: Record<
    'solids' | 'routes' | 'spawners' | 'findings' | 'agents' | 'passages' | 'covers' | 'areas' | 'underlays',
    boolean
  >
  suggestions: readonly Suggestion[]
  /** Is this the stage whose subject is the ground, or the reach? There what lies flat can be taken hold of. */
  stage: string
  /** Sizes of the pictures underlays show, by asset. */
  pictures: ReadonlyMap<string, { width: number; height: number }>
  /** How far beside their line routes that share a leg are drawn, pixels. */
  shifts?: ReadonlyMap<string, readonly number[]>
  /** Routes whose stops win over others that lie on the same place. */
  chosen: ReadonlySet<string>
}

const NEAR_PX = 12
const LEG_PX = 7

/** The thing under a window place: small things before large ones, what is chosen before what is not. */
export function hitAt(scene: HitScene, sx: number, sy: number, kinds?: readonly HitKind[]): Hit | undefined {
  const { level, view, shown } = scene
  const wants = (kind: HitKind) => !kinds || kinds.includes(kind)
  const off = (p: readonly number[]) => Math.hypot(toScreenX(view, p[0]) - sx, toScreenY(view, p[1]) - sy)
  let best: Hit | undefined
  let bestPx = NEAR_PX
  const offer = (px: number, hit: Hit) => {
    if (px >= bestPx) return
    bestPx = px
    best = hit
  }
  if (shown.agents && wants('agent')) for (const a of scene.agents) offer(off([a.x, a.y]), { kind: 'agent', id: a.id })
  if (best) return best
  if (shown.findings && wants('finding')) {
    for (const finding of scene.findings) {
      const px = Math.hypot(toScreenX(view, finding.at[0]) + 13 - sx, toScreenY(view, finding.at[1]) - 13 - sy)
      if (px < 10) return { kind: 'finding', id: finding.subjects[0], finding }
    }
  }
  if (shown.routes && wants('stop')) {
    for (const [routeId, route] of Object.entries(level.routes)) {
      if (route.hidden) continue
      const bonus = scene.chosen.has(routeId) ? 2 : 0
      for (const id of route.order) {
        const { waypointId } = route.stops[id]
        offer(off(level.waypoints[waypointId].at) - bonus, { kind: 'stop', id, routeId, waypointId })
      }
    }
  }
  if (best) return best
  if (shown.routes && wants('waypoint')) {
    for (const id of looseWaypoints(level)) offer(off(level.waypoints[id].at), { kind: 'waypoint', id })
  }
  if (best) return best
  if (shown.spawners && wants('spawner')) {
    for (const [id, s] of Object.entries(level.spawners)) if (!s.hidden) offer(off(s.at), { kind: 'spawner', id })
  }
  if (best) return best
  const px = view.x + (sx - view.width / 2) / view.scale
  const py = view.y - (sy - view.height / 2) / view.scale
  if (shown.routes && wants('leg')) {
    bestPx = LEG_PX
    for (const [id, route] of Object.entries(level.routes)) {
      if (route.hidden || route.kind === 'network') continue
      const ways = scene.ways.get(id)?.ways
      const own = scene.shifts?.get(id)
      courseOf(route, level.waypoints).forEach((line, i) => {
        const way = ways?.[i]
        const drawn = way?.found ? way.line : line
        const shift = own?.[i] ?? 0
        const near = shift === 0 ? drawn : besideLine(drawn, shift / view.scale)
        const wide = route.kind === 'lane' ? (route.widthM * view.scale) / 2 : 0
        const m = Math.max(0, distanceToLine(near, px, py) * view.scale - wide)
        offer(m - (scene.chosen.has(id) ? 1 : 0), { kind: 'leg', id, leg: i })
      })
    }
  }
  if (shown.routes && wants('link')) {
    const hidden = new Set(Object.values(level.routes).flatMap((r) => (r.hidden ? r.linkIds : [])))
    for (const [id, { fromId, toId }] of Object.entries(level.links)) {
      if (hidden.has(id)) continue
      const [a, b] = [level.waypoints[fromId].at, level.waypoints[toId].at]
      offer(distanceToSegment(px, py, a[0], a[1], b[0], b[1]) * view.scale, { kind: 'link', id })
    }
  }
  if (best) return best
  // Ghosts are shown in the stage of reach alone.
  if (shown.passages && scene.stage === 'reach' && wants('suggestion')) {
    scene.suggestions.forEach((p, index) => {
      const [mx, my] = bowMiddle({ view }, p.from, p.to)
      offer(Math.hypot(mx - sx, my - sy), { kind: 'suggestion', id: `suggestion-${index}`, index })
    })
  }
  if (shown.passages && wants('passage')) {
    bestPx = NEAR_PX
    for (const [id, p] of Object.entries(level.passages)) {
      if (p.hidden) continue
      const [mx, my] = bowMiddle({ view }, p.from, p.to)
      offer(Math.hypot(mx - sx, my - sy), { kind: 'passage', id })
      if (p.locked) continue
      for (const end of ['from', 'to'] as const) offer(off(p[end]), { kind: 'passage', id, end })
    }
  }
  if (best) return best
  if (wants('place')) {
    for (const list of [level.markers, level.posts])
      for (const [id, t] of Object.entries(list)) if (!t.hidden) offer(off(t.at), { kind: 'place', id })
  }
  if (best) return best
  const [x, y] = [px, py]
  if (shown.solids && (wants('solid') || wants('mesh'))) {
    const { solids, meshes, near } = terrainOf(level)
    const top = near({ minX: x, minY: y, maxX: x, maxY: y })
      .map((k) => solids[k])
      .filter((s) => ringHolds(s.ring, x, y) && !level.solids[s.id].hidden && !level.solids[s.id].locked)
      .sort((a, b) => b.topM - a.topM)[0]
    if (top && wants('solid')) return { kind: 'solid', id: top.id }
    const mesh = meshes.find((m) => {
      const { hidden, locked } = level.meshes[m.id] ?? { hidden: true }
      if (hidden || locked) return false
      return m.near({ minX: x, minY: y, maxX: x, maxY: y }).length > 0
    })
    if (mesh && wants('mesh')) return { kind: 'mesh', id: mesh.id }
  }
  const last = <T extends { ring: readonly (readonly [number, number])[]; hidden: boolean; locked: boolean }>(
    things: Record<string, T>,
    holds: (thing: T) => boolean,
  ) =>
    Object.entries(things)
      .filter(([, t]) => !t.hidden && !t.locked && holds(t))
      .at(-1)?.[0]
  if (shown.areas && wants('area') && scene.stage === 'reach') {
    const id = last(level.reachAreas, (a) => distanceToRing(a.ring, x, y) * view.scale < LEG_PX)
    if (id) return { kind: 'area', id }
  }
  if (shown.covers && wants('cover') && scene.stage === 'ground') {
    const id = last(level.covers, (c) => ringHolds(c.ring, x, y))
    if (id) return { kind: 'cover', id }
  }
  if (shown.underlays && wants('underlay') && scene.stage === 'ground') {
    for (const [id, u] of Object.entries(level.underlays)) {
      const picture = scene.pictures.get(u.assetId)
      if (!u.hidden && !u.locked && picture && ringHolds(underlayRing(u, picture), x, y))
        return { kind: 'underlay', id }
    }
  }
  return undefined
}
