import type { Layer } from './layer'

/** What the legend shows that is not a kind of thing: under the things, and over them. */
export const UNDER_LAYERS: readonly Layer[] = [
  {
    id: 'contours',
    name: 'Contours, every fifth labelled',
    strokes: [{ d: 'M0 5q9-5 17 0t17 0M0 14q9-5 17 0t17 0', ink: 'contour' }],
  },
  { id: 'grid', name: 'Grid', strokes: [{ d: 'M8 9h6M11 6v6M22 9h6M25 6v6', ink: 'faded' }] },
  {
    id: 'reach',
    name: 'Reach, one stipple an island',
    strokes: [
      { d: 'M1 1h32v16H1z', ink: 'pine' },
      { d: 'M4 6h26M6.5 12h26', ink: 'pine', width: 2, dash: '0.1 5' },
    ],
  },
]
export const OVER_LAYERS: readonly Layer[] = [
  {
    id: 'findings',
    name: 'Findings',
    strokes: [
      { d: 'M5 3h5l3 3v5l-3 3H5l-3-3V6z', ink: 'alarm', width: 0, fill: 'alarm' },
      { d: 'M24 3l7 12H17z', ink: 'ochre', width: 1.8 },
    ],
  },
  {
    id: 'agents',
    name: 'Agents, with a tail',
    strokes: [
      { d: 'M2 9h12', ink: 'rust', width: 1.5, opacity: 0.6 },
      { d: 'M30 9c-5-3-6-5-10-5a5 5 0 0 0 0 10c4 0 5-2 10-5z', ink: 'rust', width: 0, fill: 'rust' },
    ],
  },
]
