import type { Layer } from '../../map/layer'
import { circle } from '../../ui/stroke'

export const WINDOWS_LAYER: Layer = {
  id: 'windows',
  name: 'Watch spots and sneak lines',
  strokes: [
    { d: `M2 9q6-6 12 0q-6 6-12 0z${circle(8, 9, 1.6)}`, ink: 'lake', width: 1.5 },
    { d: 'M18 13l6-7 8 4', ink: 'plum', width: 1.6, dash: '1 3' },
  ],
}
