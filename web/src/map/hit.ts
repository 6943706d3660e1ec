import type { Finding } from '@tidytrail/core/checks'
import { distanceToLine, ringHolds } from '@tidytrail/core/geometry'
import { terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { legsOf } from '@tidytrail/core/network'
import type { RouteWays } from '../workers/surveyor.protocol'
import { toScreenX, toScreenY, type Viewport } from './viewport'

/** What lies under the pointer. */
export type Hit =
  | { kind: 'stop'; id: string; routeId: string; waypointId: string }
  | { kind: 'spawner'; id: string }
  | { kind: 'agent'; id: string }
  | { kind: 'finding'; id: string; finding: Finding }
  | { kind: 'leg'; id: string; leg: number }
  | { kind: 'solid'; id: string }

export type HitKind = Hit['kind']

export interface HitScene {
  level: Level
  view: Viewport
  ways: ReadonlyMap<string, RouteWays>
  findings: readonly Finding[]
  agents: readonly { id: string; x: number; y: number }[]
  shown: Record<'solids' | 'routes' | 'spawners' | 'findings' | 'agents', boolean>
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
  if (shown.spawners && wants('spawner')) {
    for (const [id, s] of Object.entries(level.spawners)) if (!s.hidden) offer(off(s.at), { kind: 'spawner', id })
  }
  if (best) return best
  if (shown.routes && wants('leg')) {
    bestPx = LEG_PX
    for (const [id, route] of Object.entries(level.routes)) {
      if (route.hidden) continue
      const ways = scene.ways.get(id)?.ways
      legsOf(route).forEach((leg, i) => {
        const way = ways?.[i]
        const at = (k: number) => level.waypoints[route.stops[route.order[k]].waypointId].at
        const line = way?.found ? way.line : [at(leg.from), at(leg.to)]
        const onScreen = line.map((p) => [toScreenX(view, p[0]), toScreenY(view, p[1])])
        offer(distanceToLine(onScreen, sx, sy) - (scene.chosen.has(id) ? 1 : 0), { kind: 'leg', id, leg: i })
      })
    }
  }
  if (best || !shown.solids || !wants('solid')) return best
  const x = view.x + (sx - view.width / 2) / view.scale
  const y = view.y - (sy - view.height / 2) / view.scale
  const { solids, near } = terrainOf(level)
  const top = near({ minX: x, minY: y, maxX: x, maxY: y })
    .map((k) => solids[k])
    .filter((s) => ringHolds(s.ring, x, y) && !level.solids[s.id].hidden && !level.solids[s.id].locked)
    .sort((a, b) => b.topM - a.topM)[0]
  return top ? { kind: 'solid', id: top.id } : undefined
}
