import { heightsTool } from './brush-heights'
import { chooseTool } from './choose'
import { areaTool } from '../kinds/reach-area/draw-area'
import { connectTool } from '../kinds/route/connect-tool'
import { boxTool, cylinderTool, rampTool, stairsTool } from '../kinds/solid/draw-block'
import { passageTool } from '../kinds/passage/draw-passage'
import { prismTool } from '../kinds/solid/draw-prism'
import { drawRouteTool } from '../kinds/route/draw-route'
import { linkTool } from '../kinds/link/link-tool'
import { measureTool } from './measure'
import { coverTool } from '../kinds/cover/paint'
import { pickOrderTool } from '../kinds/route/pick-order'
import { pinTool } from '../kinds/underlay/pin'
import { placeSpawnerTool } from '../kinds/spawner/place-spawner'
import { probeTool } from './probe'
import { spliceTool } from '../kinds/route/splice'
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
