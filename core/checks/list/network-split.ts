import KDBush from 'kdbush'
import { distance2 } from '@tidytrail/core/geometry'
import type { Check } from '../check'
import { derivedId } from '../derived-id'
import { linkable, nodeLabel } from '../links'
import { metres } from '../words'

/** Pairs of nodes up to so many times the nearest one's distance are tried, and so many of them. */
const MOST_TIMES = 2
const TRIED = 16
/** More parts than this are not told of one by one. */
const MOST = 24

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
    const places = net.ids.map((w) => look.level.thing('waypoints', w)!.at)
    const index = new KDBush(places.length)
    for (const [x, y] of places) index.add(x, y)
    index.finish()
    const into = `${route.name} falls into ${sizes.length} parts that never meet, of ${sizes.slice(0, 4).join(', ')}${sizes.length > 4 ? ' …' : ''} nodes`
    // One finding for each part but the largest, at the node of it that comes nearest to another part.
    return sizes.slice(1, MOST + 1).map((size, k) => {
      const pairs: { a: number; b: number; m: number }[] = []
      let nearest = Infinity
      net.ids.forEach((_, n) => {
        if (of[n] !== k + 1) return
        const [x, y] = places[n]
        for (const m of index.within(x, y, nearest * MOST_TIMES)) {
          if (of[m] === k + 1) continue
          const far = distance2(places[m], places[n])
          nearest = Math.min(nearest, far)
          pairs.push({ a: n, b: m, m: far })
        }
      })
      // The largest part first: what is linked to it belongs to the rest.
      pairs.sort((p, q) => Number(of[p.b] !== 0) - Number(of[q.b] !== 0) || p.m - q.m)
      const best = pairs.slice(0, TRIED).find((p) => linkable(look, id, places[p.a], places[p.b]))
      const closest = pairs.reduce((p, q) => (q.m < p.m ? q : p))
      const a = net.ids[(best ?? closest).a]
      const message = sizes.length > 2 ? `${into}; ${partWords(size)} at ${nodeLabel(look, a)}` : into
      const said = { subjects: [id, a], at: places[(best ?? closest).a] }
      if (!best) {
        const between = `Where they come nearest, ${metres(closest.m)} apart, nothing leads straight from one to the other.`
        return { ...said, message: `${message}. ${between}` }
      }
      const b = net.ids[best.b]
      return {
        ...said,
        message: `${message}.`,
        fix: {
          label: `Link ${nodeLabel(look, a)} to ${nodeLabel(look, b)}, ${metres(best.m)} away`,
          edit: 'addLinks',
          args: { links: [{ id: derivedId('ln', a, b), fromId: a, toId: b }], routeId: id },
        },
      }
    })
  },
}

const partWords = (size: number) => (size === 1 ? 'one alone' : `one of ${size}`)
