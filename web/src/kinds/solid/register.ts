import type { Solid } from '@tidytrail/core/level'
import { computed } from 'vue'
import type { Stroke } from '../../ui/stroke'
import { circle } from '../../ui/stroke'
import GroundFoot from '../GroundFoot.vue'
import { strokeSymbol, useCollection, useRows } from '../plain-register'
import type { Register } from '../register'

/** A length to the centimetre, without noughts that say nothing: a row has little room. */
const short = (m: number) => String(+m.toFixed(2))
function sizeWords(s: Solid): string {
  if (s.shape === 'prism') return `of ${s.ring.length} corners`
  if (s.shape === 'cylinder') return `${short(2 * s.radiusM)} m across`
  return `${short(s.sizeX)} × ${short(s.sizeY)} m`
}
const areaOf = (s: Solid) =>
  s.shape === 'prism' ? s.heightM : s.shape === 'cylinder' ? s.radiusM * s.radiusM * 3 : s.sizeX * s.sizeY

const SHAPES: Record<Solid['shape'], Stroke> = {
  ramp: { d: 'M1 14h20L21 3z', ink: 'ink', width: 1.4 },
  stairs: { d: 'M1 14h20V2h-5v4h-5v4H6v4', ink: 'ink', width: 1.3 },
  prism: { d: 'M2 10l4-8h11l4 7-8 5z', ink: 'ink', width: 1.4 },
  cylinder: { d: circle(11, 8, 6.4), ink: 'ink', width: 1.4 },
  box: { d: 'M2 2h18v12H2zM2 10l8-8M4 14L16 2M11 14l9-9', ink: 'ink', width: 1.1 },
}

export const register: Register = {
  id: 'solids',
  stage: 'ground',
  name: 'Solids',
  find: 'Find among the solids',
  symbol: strokeSymbol((row) => [SHAPES[row.kind as Solid['shape']]]),
  foot: GroundFoot,
  use: () => ({
    ...useCollection('solids'),
    rows: useRows('solids', (s: Solid) => ({
      detail: `${s.shape} ${sizeWords(s)}, ${short(s.heightM)} m high`,
      size: areaOf(s),
      kind: s.shape,
    })),
    empty: computed(() => 'Nothing stands on this ground yet. Block out the place, or import it.'),
  }),
}
