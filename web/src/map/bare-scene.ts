import type { Level } from '@tidytrail/core/level'
import type { MapScene } from './scene'

/** What is drawn of a level on the routes stage when nothing is chosen, found or run; for tests and pictures. */
export const bareScene = (level: Level, more: Partial<MapScene> = {}): MapScene => ({
  level,
  whole: level,
  stage: 'routes',
  isShown: () => true,
  chosen: new Set(),
  alone: undefined,
  hovered: undefined,
  chosenRoutes: new Set(),
  paths: new Map(),
  shifts: new Map(),
  findings: [],
  agents: [],
  suggestions: [],
  pictures: new Map(),
  plans: new Map(),
  ...more,
})
