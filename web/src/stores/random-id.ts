import { newId, type IdKind } from '@tidytrail/core/level'

/** A new id from the browser's own chance. */
export const randomId = (kind: IdKind): string =>
  newId(kind, () => crypto.getRandomValues(new Uint32Array(1))[0] / 0x100000000)
