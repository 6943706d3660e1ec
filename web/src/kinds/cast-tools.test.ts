import { beforeEach, describe, expect, it } from 'vitest'
import { addRoute, addStop, routeSchema } from '@tidytrail/core/level'
import { Bench } from '../sheet/tools/tool-bench'
import { postTool } from './post/place-post'
import { placeSpawnerTool } from './spawner/place-spawner'
import { zoneTool } from './zone/draw-zone'
import { zoneShape } from './zone/zone-options'

let bench: Bench
beforeEach(() => {
  bench = new Bench()
  bench.sheet.stage = 'cast'
  zoneShape.value = 'polygon'
})
const zones = () => Object.values(bench.level.zones)
/** A patrol from (10, 20) to (60, 20). */
function withRoute(): void {
  const { perform } = bench.context.levels
  perform(addRoute, { id: 'rt_a', name: 'Beat', kind: 'patrol' })
  for (const [k, x] of [10, 60].entries())
    perform(addStop, { routeId: 'rt_a', stopId: `st_${k}`, waypointId: `wp_${k}`, at: [x, 20, 0] })
  expect(routeSchema.parse(bench.level.routes.rt_a).order).toHaveLength(2)
}

describe('zones', () => {
  it('are drawn corner by corner', () => {
    const tool = bench.make(zoneTool)
    for (const [x, y] of [[10, 10], [30, 10], [30, 30]]) bench.click(tool, x, y) // prettier-ignore
    tool.press!('Enter')
    expect(zones()).toMatchObject([{ name: 'Zone 1', shape: 'polygon', purpose: 'wander' }])
    expect(zones()[0].ring).toHaveLength(3)
  })

  it('are circles from their middle to their rim, and no mere click', () => {
    zoneShape.value = 'circle'
    bench.click(bench.make(zoneTool), 20, 20)
    expect(zones()).toEqual([])
    expect(bench.sheet.hint).toContain('Drag from the middle')
    bench.drag(bench.make(zoneTool), [20, 20], [26, 28])
    expect(zones()[0]).toMatchObject({ shape: 'circle', ring: [[20, 20], [26, 28]] }) // prettier-ignore
  })

  it('lie along a route that is clicked, and along nothing else', () => {
    withRoute()
    zoneShape.value = 'band'
    bench.click(bench.make(zoneTool), 35, 50)
    expect(zones()).toEqual([])
    expect(bench.sheet.hint).toContain('no route here')
    bench.click(bench.make(zoneTool), 35, 20)
    expect(zones()[0]).toMatchObject({ shape: 'band', routeId: 'rt_a', ring: [] })
  })
})

describe('posts', () => {
  it('are placed one after the other, face where one drags, and belong to the zone they lie in', () => {
    zoneShape.value = 'circle'
    bench.drag(bench.make(zoneTool), [20, 20], [30, 20])
    const tool = bench.make(postTool)
    bench.drag(tool, [20, 22], [20, 30])
    bench.click(tool, 60, 60)
    const [inside, outside] = Object.values(bench.level.posts)
    expect(inside).toMatchObject({ name: 'Post 1', facingRad: 1.571, zoneId: Object.keys(bench.level.zones)[0] })
    expect(outside).toMatchObject({ name: 'Post 2', zoneId: null })
  })
})

describe('spawners', () => {
  it('placed on a route follow it, and share one brief as long as it says nothing else', () => {
    withRoute()
    const tool = bench.make(placeSpawnerTool)
    bench.click(tool, 10, 20)
    bench.click(tool, 35, 20)
    const [one, two] = Object.values(bench.level.spawners)
    expect([one.name, two.name]).toEqual(['Beat spawner 1', 'Beat spawner 2'])
    expect(one.briefId).toBe(two.briefId)
    const brief = bench.level.briefs[one.briefId!]
    expect(brief.steps[brief.order[0]]).toMatchObject({ kind: 'follow-route', routeId: 'rt_a' })
    // One step to undo, brief and all.
    expect(Object.keys(bench.past.at(-1)!.spawners)).toHaveLength(1)
    bench.click(tool, 35, 60)
    expect(Object.values(bench.level.spawners)[2]).toMatchObject({ name: 'Spawner 1', briefId: null })
  })

  it('are like the one that is chosen: its body, side and squad', () => {
    const tool = bench.make(placeSpawnerTool)
    bench.click(tool, 30, 60)
    const [id] = Object.keys(bench.level.spawners)
    bench.level = {
      ...bench.level,
      spawners: { [id]: { ...bench.level.spawners[id], factionId: 'fc_a', squadId: 'sq_a' } },
    }
    bench.sheet.choose([id])
    bench.click(tool, 40, 60)
    expect(Object.values(bench.level.spawners)[1]).toMatchObject({ factionId: 'fc_a', squadId: 'sq_a' })
  })
})
