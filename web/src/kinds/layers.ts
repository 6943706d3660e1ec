/** Layers several kinds of things share, and inks of layers that kinds without a drawing of their own are drawn in. */
import type { Layer } from '../map/layer'
import { circle } from '../ui/stroke'

export const SOLIDS_LAYER: Layer = {
  id: 'solids',
  name: 'Solids and meshes',
  strokes: [
    { d: 'M3 2h28v14H3z', ink: 'ink', width: 1.5 },
    { d: 'M3 10l8-8M3 16L17 2M11 16L25 2M18 16L31 3M25 16l6-6', ink: 'ink', width: 0.7 },
  ],
}

export const ROUTES_LAYER: Layer = {
  id: 'routes',
  name: 'Routes, stops and links',
  strokes: [
    { d: 'M0 9h34', ink: 'rust', width: 2, dash: '7 4' },
    { d: circle(17, 9, 5.5), ink: 'rust', width: 2, fill: 'sheet' },
  ],
}

export const PLACES_LAYER: Layer = {
  id: 'places',
  name: 'Posts, markers and zones',
  strokes: [
    { d: 'M5 5h8v8H5zM13 9h8', ink: 'ink', width: 1.6, fill: 'ink' },
    { d: `${circle(27, 9, 5)}M24 9h6M27 6v6`, ink: 'ink', width: 1.4 },
  ],
}
