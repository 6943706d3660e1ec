import { chooseTool } from './choose'
import { boxTool, rampTool } from './draw-block'
import { prismTool } from './draw-prism'
import { drawRouteTool } from './draw-route'
import { placeSpawnerTool } from './place-spawner'
import { probeTool } from './probe'
import { spliceTool } from './splice'
import type { MakeTool } from './tool'
import { whyTool } from './why'

/** Every tool there is, in the order of the strip. */
export const TOOLS: readonly MakeTool[] = [
  chooseTool,
  boxTool,
  prismTool,
  rampTool,
  probeTool,
  whyTool,
  drawRouteTool,
  spliceTool,
  placeSpawnerTool,
]
