import { it } from 'vitest'
import { collisionsIn, crossroads, rehearsed, settled, withStreams } from '@tidytrail/core/testing'
import { LIMITS } from '../events'
for (const on of ['left','right'] as const)
for (const perH of [200, 500])
for (const control of ['give-way','signals','all-way','side'] as const)
it('tries '+control+on+perH, () => {
  let level = settled(crossroads(on))
  if (control === 'signals') {
    const { jn_0 } = level.junctions
    level = { ...level, junctions: { jn_0: { ...jn_0, control, phases: usual(level, jn_0) } } }
  } else level = {...level, junctions: {jn_0: {...level.junctions.jn_0, control, ...(control!=='give-way'&&{yields: []})}}}
  level = withStreams(level, { perH })
  const t0 = performance.now()
  const run = rehearsed(level, 600)
  const { engine } = run
  const col = collisionsIn(run, 0.0)
  const left = engine.members.filter((m) => m.leftS !== undefined).length
  console.log(control, on, perH, 'came', engine.members.length, 'left', left, 'collisions', col.length, JSON.stringify(col.slice(0, 2)), 'ms', Math.round(performance.now() - t0), 'alive', engine.world.count)
  const w = engine.world
  const lim: Record<string, number> = {}
  for (let n = 0; n < w.count; n++) if (w.key[n] !== 0) lim[LIMITS[w.limit[n]] + (w.rail[n] ? '' : '!')] = (lim[LIMITS[w.limit[n]] + (w.rail[n] ? '' : '!')] ?? 0) + 1
  console.log(JSON.stringify(lim))
}, 120000)
import { laneNet, usualPhases } from '@tidytrail/core/traffic'
import type { Level, Junction } from '@tidytrail/core/level'
const usual = (level: Level, j: Junction) => usualPhases(level, laneNet(level), { ...j, control: 'signals' }) as never
