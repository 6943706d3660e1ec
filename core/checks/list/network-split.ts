import KDBush from 'kdbush'
import { distance2 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { nodeLabel } from '../links'
import { metres } from '../words'

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
    let best: { a: number; b: number; m: number } | undefined
    net.ids.forEach((_, n) => {
      if (of[n] === 0) return
      const [x, y] = place(n)
      for (const k of index.within(x, y, best?.m ?? Infinity)) {
        const m = distance2(place(main[k]), [x, y])
        if (!best || m < best.m) best = { a: n, b: main[k], m }
      }
    })
    if (!best) return []
    const [a, b] = [net.ids[best.a], net.ids[best.b]]
    const links = [{ id: derivedId('ln', a, b), fromId: a, toId: b }]
    return [
      {
        subjects: [id, a],
        at: place(best.a),
        message: `${route.name} falls into ${sizes.length} parts that never meet, of ${sizes.slice(0, 4).join(', ')}${sizes.length > 4 ? ' …' : ''} nodes.`,
        fix: {
          label: `Link ${nodeLabel(look, a)} to ${nodeLabel(look, b)}, ${metres(best.m)} away`,
          edit: 'addLinks',
          args: { links, routeId: id },
        },
      },
    ]
  },
}
