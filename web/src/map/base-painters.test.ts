import { smallLevel } from '@tidytrail/core/testing'
import { expect, it, vi } from 'vitest'
import { basePainters, type MapStores } from './base-painters'
import { recordingPen } from './recording-pen'
import type { MapScene } from './scene'
import { allOf } from './sliced'

vi.stubGlobal('Path2D', class {})
vi.stubGlobal('DOMMatrix', class {})

const level = smallLevel()
const view = { x: 20, y: 20, scale: 10, width: 400, height: 400 }
const tile = (minX: number, fills: number) => ({
  fills: Array.from({ length: fills }, (_, island) => ({ island, z: 0, path: { island } })),
  edges: { edges: minX },
  box: { minX, minY: 0, maxX: minX + 16, maxY: 40 },
})
/** What the painters ask of the stores for the layers looked at here. */
const stores = (reach: unknown) =>
  ({
    survey: { profileId: 'pf_a', reach: new Map(reach ? [['pf_a', reach]] : []), rebuilding: [] },
    rehearsal: { begun: false, agents: [] },
    watching: { strayed: [] },
    sheet: {},
  }) as unknown as MapStores
const scene = (stage: string) => ({ level, stage, isShown: () => true }) as unknown as MapScene

function drawn(layer: string, reach: unknown, stage = 'reach') {
  const recorded = recordingPen(view)
  Object.assign(recorded.pen.inks, { stipples: ['one', 'two'].map(() => ({ setTransform: () => {} })) })
  for (const painter of basePainters(stores(reach), []).filter((p) => p.layer === layer))
    allOf(painter.draw(recorded.pen, scene(stage)))
  return recorded
}

it('fills the reach of the profile looked at island by island, and inks its edge', () => {
  // More tiles than are drawn in one go.
  const tiles = new Map(Array.from({ length: 150 }, (_, k) => [k, tile(k % 40, 2)]))
  const { marks } = drawn('reach', { tiles, islands: [] })
  expect(marks('fill').map(([path]) => path)).toHaveLength(300)
  expect(marks('stroke')).toHaveLength(150)
})

it('draws no tile that is out of view, and nothing while no reach is known', () => {
  const tiles = new Map([[0, tile(500, 1)]])
  expect(drawn('reach', { tiles, islands: [] }).marks('fill')).toEqual([])
  expect(drawn('reach', undefined).all).toEqual([])
})
