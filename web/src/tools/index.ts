import { heightsTool } from './brush-heights'
import { chooseTool } from './choose'
import { areaTool } from './draw-area'
import { connectTool } from './connect'
import { boxTool, cylinderTool, rampTool, stairsTool } from './draw-block'
import { passageTool } from './draw-passage'
import { prismTool } from './draw-prism'
import { drawRouteTool } from './draw-route'
import { linkTool } from './link'
import { measureTool } from './measure'
import { coverTool } from './paint-cover'
import { pickOrderTool } from './pick-order'
import { pinTool } from './pin-underlay'
import { placeSpawnerTool } from './place-spawner'
import { probeTool } from './probe'
import { spliceTool } from './splice'
import type { MakeTool } from './tool'
import { whyTool } from './why'

/** Every tool there is, in the order of the strip. */
export const TOOLS: readonly MakeTool[] = [
  chooseTool,
  boxTool,
  cylinderTool,
  prismTool,
  rampTool,
  stairsTool,
  coverTool,
  heightsTool,
  pinTool,
  areaTool,
  passageTool,
  probeTool,
  whyTool,
  measureTool,
  drawRouteTool,
  linkTool,
  spliceTool,
  pickOrderTool,
  connectTool,
  placeSpawnerTool,
]
