import { field, flag, height, kept, METRES, name, positive } from '../../fields'

/** What every solid has, whatever its shape. */
export const standing = {
  name,
  /** Height of the underside, metres. */
  baseM: field(height, { ...METRES, label: 'underside at' }),
  heightM: field(positive, { ...METRES, label: 'height' }),
  /** May agents stand on its top? */
  walkable: field(flag(false), { label: 'agents may stand on top' }),
  blocksSight: field(flag(true), { label: 'blocks sight' }),
  ...kept,
}
