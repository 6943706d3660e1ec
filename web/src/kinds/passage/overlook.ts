import { mix3 } from '@tidytrail/core/geometry'
import { passageHeight } from '@tidytrail/core/reach'
import * as THREE from 'three'
import type { OverlookPart } from '../../overlook/part'
import { ABOVE_M } from '../../overlook/tools'

export const part: OverlookPart = {
  reads: (level) => [level.passages],
  build(tools, level) {
    const group = new THREE.Group()
    for (const [id, p] of Object.entries(level.passages)) {
      if (p.hidden) continue
      const segments: number[] = []
      const place = (t: number) => {
        const [x, y] = mix3(p.from, p.to, t)
        return tools.local([x, y, passageHeight(p.kind, p.from, p.to, t)], ABOVE_M)
      }
      for (let k = 0; k < 16; k++) segments.push(...place(k / 16).toArray(), ...place((k + 1) / 16).toArray())
      const bow = tools.fat(segments, tools.paper.colour.plum, 4, p.state !== 'open')
      bow.name = id
      group.add(bow)
    }
    return group
  },
}
