import KDBush from 'kdbush'
import { distance2 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { linkable, nodeLabel } from '../links'
import { metres } from '../words'

/** Pairs of nodes up to so many times the nearest one's distance are tried, and so many of them. */
const MOST_TIMES = 2
const TRIED = 16

export const networkSplit: Check = {
  id: 'network.split',
  stage: 'routes',
  severity: 'warning',
  sentence: 'A network falls into parts that never meet.',
  each: 'routes',
  run(look, id) {
    const route = look.level.thing('routes', id)!
    if (route.kind !== 'network') return []
    const net = look.graph.net(id)
    if (!net || net.loose.sizes.length < 2) return []
    const { of, sizes } = net.loose
    const place = (n: number) => look.level.thing('waypoints', net.ids[n])!.at
    // The node outside the largest part that comes nearest to it.
    const main = net.ids.flatMap((_, n) => (of[n] === 0 ? [n] : []))
    const index = new KDBush(main.length)
    for (const n of main) index.add(place(n)[0], place(n)[1])
    index.finish()
    const pairs: { a: number; b: number; m: number }[] = []
    let nearest = Infinity
    net.ids.forEach((_, n) => {
      if (of[n] === 0) return
      const [x, y] = place(n)
      for (const k of index.within(x, y, nearest * MOST_TIMES)) {
        const m = distance2(place(main[k]), [x, y])
        nearest = Math.min(nearest, m)
        pairs.push({ a: n, b: main[k], m })
      }
    })
    if (pairs.length === 0) return []
    pairs.sort((p, q) => p.m - q.m)
    const best = pairs.slice(0, TRIED).find((p) => linkable(look, id, place(p.a), place(p.b)))
    const lost = net.ids[(best ?? pairs[0]).a]
    const message = `${route.name} falls into ${sizes.length} parts that never meet, of ${sizes.slice(0, 4).join(', ')}${sizes.length > 4 ? ' …' : ''} nodes.`
    if (!best) {
      const between = ` Where they come nearest, ${metres(pairs[0].m)} apart, nothing leads straight from one to the other.`
      return [{ subjects: [id, lost], at: place(pairs[0].a), message: message + between }]
    }
    const [a, b] = [net.ids[best.a], net.ids[best.b]]
    const links = [{ id: derivedId('ln', a, b), fromId: a, toId: b }]
    return [
      {
        subjects: [id, a],
        at: place(best.a),
        message,
        fix: {
          label: `Link ${nodeLabel(look, a)} to ${nodeLabel(look, b)}, ${metres(best.m)} away`,
          edit: 'addLinks',
          args: { links, routeId: id },
        },
      },
    ]
  },
}
