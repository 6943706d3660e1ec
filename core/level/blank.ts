import { WARDEN } from './presets'
import { levelSchema, LEVEL_FORMAT, LEVEL_VERSION, type Level } from './schema'

/** A new level: flat open ground of the given size in metres, and a warden to try it with. */
export function blankLevel(name: string, sizeX = 120, sizeY = 80): Level {
  return levelSchema.parse({
    format: LEVEL_FORMAT,
    version: LEVEL_VERSION,
    name,
    settings: { extent: { minX: 0, minY: 0, maxX: sizeX, maxY: sizeY } },
    profiles: { pf_warden: WARDEN },
  })
}
