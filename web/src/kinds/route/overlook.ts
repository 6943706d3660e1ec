import * as THREE from 'three'
import type { Paper } from '../../overlook/paper'
import type { OverlookPart } from '../../overlook/part'
import { inkOf } from './look'

export const part: OverlookPart = {
  reads: (level, { paths }) => [level.routes, level.waypoints, level.links, paths],
  build(tools, level, { paths }) {
    const group = new THREE.Group()
    for (const [id, route] of Object.entries(level.routes)) {
      if (route.hidden) continue
      const segments: number[] = []
      for (const path of paths.get(id)?.paths ?? []) {
        if (!path.found) continue
        for (let i = 1; i < path.line.length; i++) tools.along(level, path.line[i - 1], path.line[i], segments)
      }
      for (const linkId of route.linkIds) {
        const { fromId, toId } = level.links[linkId]
        tools.along(level, level.waypoints[fromId].at, level.waypoints[toId].at, segments)
      }
      const ink = tools.paper.colour[inkOf(route) as keyof Paper['colour']]
      if (segments.length > 0) group.add(tools.fat(segments, ink, 3, route.kind === 'patrol'))
      route.order.forEach((stopId, k) => {
        const { at } = level.waypoints[route.stops[stopId].waypointId]
        if (group.children.length > 1500) return
        const blaze = tools.sprite(String(k + 1), ink)
        blaze.position.copy(tools.local(at, 0.3))
        blaze.center.set(0.5, 0)
        blaze.name = stopId
        group.add(blaze)
      })
    }
    return group
  },
}
