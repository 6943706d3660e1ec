import type { Level, LevelInput } from '@tidytrail/core/level'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'
import { block, isleLevel, type SolidInput } from './build'

/** Options for making the large level smaller, in metres and counts. */
export interface WideOptions {
  sideM?: number
  blocks?: number
  routes?: number
  stopsPerRoute?: number
  cellM?: number
}

/** 4 km² of streets with 20,000 waypoints in 1,000 rounds; from a fixed seed, made when asked for. */
export function wideSallow({
  sideM = 2000,
  blocks = 1600,
  routes = 1000,
  stopsPerRoute = 20,
  cellM = 0.5,
}: WideOptions = {}): Level {
  const generator = xoroshiro128plus(20)
  const next = () => (generator.next() >>> 0) / 0x100000000
  const mm = (v: number) => Math.round(v * 1000) / 1000
  const across = Math.ceil(Math.sqrt(blocks))
  const pitch = sideM / across
  const solids: Record<string, SolidInput> = {}
  for (let k = 0; k < blocks; k++) {
    const cx = ((k % across) + 0.5) * pitch
    const cy = (Math.floor(k / across) + 0.5) * pitch
    const w = pitch * (0.35 + 0.25 * next())
    const d = pitch * (0.35 + 0.25 * next())
    solids[`sd_b${k}`] = block(
      `Block ${k + 1}`,
      [mm(cx - w / 2), mm(cy - d / 2), mm(cx + w / 2), mm(cy + d / 2)],
      [0, mm(4 + 8 * next())],
      {
        turnRad: k % 5 === 0 ? mm(next() - 0.5) : 0,
      },
    )
  }
  const waypoints: NonNullable<LevelInput['waypoints']> = {}
  const routeRecords: NonNullable<LevelInput['routes']> = {}
  for (let r = 0; r < routes; r++) {
    let i = Math.floor(next() * (across - 6)) + 3
    let j = Math.floor(next() * (across - 6)) + 3
    const stops: NonNullable<LevelInput['routes']>[string]['stops'] = {}
    const order: string[] = []
    for (let s = 0; s < stopsPerRoute; s++) {
      const tail = `${r}x${s}`
      // Crossings between blocks, one step along the streets at a time.
      waypoints[`wp_${tail}`] = { at: [mm(i * pitch + next() * 2 - 1), mm(j * pitch + next() * 2 - 1), 0] }
      stops[`st_${tail}`] = { waypointId: `wp_${tail}` }
      order.push(`st_${tail}`)
      if (next() < 0.5) i = Math.min(across - 2, Math.max(1, i + (next() < 0.5 ? -1 : 1)))
      else j = Math.min(across - 2, Math.max(1, j + (next() < 0.5 ? -1 : 1)))
    }
    routeRecords[`rt_r${r}`] = { name: `Round ${r + 1}`, travel: 'there-and-back', stops, order }
  }
  return isleLevel('Wide Sallow', {
    settings: { extent: { minX: 0, minY: 0, maxX: sideM, maxY: sideM }, cellM },
    solids,
    waypoints,
    routes: routeRecords,
  })
}
