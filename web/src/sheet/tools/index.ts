import { KIND_TOOLS } from '../../kinds'
import { heightsTool } from '../../tools/brush-heights'
import { measureTool } from '../../tools/measure'
import { probeTool } from '../../tools/probe'
import type { MakeTool } from '../../tools/tool'
import { whyTool } from '../../tools/why'
import { chooseTool } from './choose'

/** Every tool there is, in the order of the strip. */
export const TOOLS: readonly MakeTool[] = [chooseTool, ...KIND_TOOLS, heightsTool, probeTool, whyTool, measureTool]
