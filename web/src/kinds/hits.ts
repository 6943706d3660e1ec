/** How things are found under the pointer by the places and outlines their kinds tell of. */
import { distanceToRing, ringHolds, type Point2 } from '@tidytrail/core/geometry'
import { rolesIn, type Collection } from '@tidytrail/core/level'
import { LEG_PX, NEAR_PX, type HitTest } from '../map/hit'
import type { StageId } from '../stores/sheet'

interface Flat {
  readonly hidden?: boolean
  readonly locked?: boolean
}

export const ORDER = {
  agent: 10,
  finding: 20,
  stop: 30,
  loose: 40,
  spot: 50,
  line: 60,
  bow: 70,
  place: 80,
  standing: 90,
  flat: 100,
}

/** Finds things by the one place they stand at. */
export function placeTest(collection: Collection, key: string, layer: string, order = ORDER.place): HitTest {
  return {
    order,
    layer,
    finds: collection,
    find(scene, at, offer) {
      const things = scene.level[collection] as unknown as Record<string, Flat & Record<string, readonly number[]>>
      for (const id in things) {
        if (things[id].hidden) continue
        const px = at.off(things[id][key])
        if (px < NEAR_PX) offer(px, { kind: 'thing', in: collection, id })
      }
    },
  }
}

/** Finds things by their outline: by its line, or by all it holds. The topmost wins; what is locked lets through. */
export function ringTest(
  collection: Collection,
  layer: string,
  options: {
    order?: number
    stage?: StageId
    filled?: boolean
    list?: (things: Record<string, never>) => [string, Flat][]
  } = {},
): HitTest {
  const { order = ORDER.flat, stage, filled = false, list = Object.entries } = options
  return {
    order,
    layer,
    finds: collection,
    find(scene, at, offer) {
      if (stage && scene.stage !== stage) return
      const things = list(scene.level[collection] as never) as [string, Flat & { ring: readonly Point2[] }][]
      for (let k = things.length - 1; k >= 0; k--) {
        const [id, t] = things[k]
        if (t.hidden || t.locked) continue
        const on = filled ? ringHolds(t.ring, at.x, at.y) : distanceToRing(t.ring, at.x, at.y) * at.view.scale < LEG_PX
        if (on) return offer(0, { kind: 'thing', in: collection, id })
      }
    },
  }
}

/** The tests that follow from where things of a collection are. */
export function derivedHits(collection: Collection, layer: string, stage: StageId): HitTest[] {
  const roles = [...rolesIn(collection)]
  return roles.flatMap(([key, role]) => {
    if (role === 'point') return [placeTest(collection, key, layer)]
    if (role === 'ring') return [ringTest(collection, layer, { stage })]
    return []
  })
}
