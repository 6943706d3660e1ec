import type { Check } from '../check'
import { nodeLabel } from '../links'

/** What is cut off matters when it is so many nodes, or a round through the node: the end of a chain is not. */
const LEAST_CUT_OFF = 3
/** More weak nodes than this are not told one by one. */
const MOST = 20

export const networkArticulation: Check = {
  id: 'network.articulation',
  stage: 'routes',
  severity: 'note',
  sentence: 'One node alone holds two parts of a network together; if it is blocked they never meet.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind !== 'network') return []
    const net = look.graph.net(id)
    if (!net) return []
    const found = []
    for (const n of net.cuts.nodes) {
      const parts = partsWithout(net.graph, n)
      if (parts.length < 2) continue
      const waypointId = net.ids[n]
      const waypoint = look.level.thing('waypoints', waypointId)!
      const label = nodeLabel(look, waypointId)
      found.push({
        subjects: [id, waypointId],
        at: waypoint.at,
        message: `${label.charAt(0).toUpperCase()}${label.slice(1)} alone holds ${route.name} together: without it ${parts[1]} ${parts[1] === 1 ? 'node is' : 'nodes are'} cut off.`,
      })
      if (found.length === MOST) break
    }
    return found
  },
}

/** Sizes of the parts that matter about a node once it is gone, the largest first. */
function partsWithout(graph: { nodeCount: number; first: Uint32Array; to: Uint32Array }, gone: number): number[] {
  // Edges against their direction too: what is cut off does not depend on it.
  const near: number[][] = Array.from({ length: graph.nodeCount }, () => [])
  for (let n = 0; n < graph.nodeCount; n++) {
    for (let e = graph.first[n]; e < graph.first[n + 1]; e++) {
      near[n].push(graph.to[e])
      near[graph.to[e]].push(n)
    }
  }
  const seen = new Uint8Array(graph.nodeCount)
  seen[gone] = 1
  const sizes: number[] = []
  for (const start of near[gone]) {
    if (seen[start]) continue
    seen[start] = 1
    const stack = [start]
    const met = new Set<number>()
    let size = 0
    while (stack.length > 0) {
      size++
      const n = stack.pop()!
      for (const m of near[n]) {
        if (m === gone) met.add(n)
        if (seen[m]) continue
        seen[m] = 1
        stack.push(m)
      }
    }
    if (size >= LEAST_CUT_OFF || met.size > 1) sizes.push(size)
  }
  return sizes.sort((a, b) => b - a)
}
