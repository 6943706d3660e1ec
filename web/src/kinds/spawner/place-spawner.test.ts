import { beforeEach, describe, expect, it } from 'vitest'
import { placeSpawnerTool } from './place-spawner'
import { Bench } from '../../sheet/tools/tool-bench'

let bench: Bench
beforeEach(() => {
  bench = new Bench()
})

describe('spawners', () => {
  it('are placed by a click, facing where one drags', () => {
    bench.drag(bench.make(placeSpawnerTool), [20, 20], [20, 26])
    expect(Object.values(bench.level.spawners)[0]).toMatchObject({
      name: 'Spawner 1',
      at: [20, 20, 0],
      facingRad: 1.571,
      profileId: 'pf_warden',
    })
    bench.click(bench.make(placeSpawnerTool), 40, 20)
    expect(Object.values(bench.level.spawners)[1]).toMatchObject({ name: 'Spawner 2', facingRad: 0 })
  })
})
