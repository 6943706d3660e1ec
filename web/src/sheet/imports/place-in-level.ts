import type { Box2 } from '@tidytrail/core/geometry'
import { changeSettings, type EditResult, type Level } from '@tidytrail/core/level'
import type { ImportForm } from './import-form'

/** So much is left free about what is brought in where the level is made as large as it needs, metres. */
const MARGIN_M = 10

type Extent = Level['settings']['extent']

/** Puts what lies about its own middle into that of the level; a level too small for it is to be made larger. */
export function putInTheMiddle(form: ImportForm, box: Box2, extent: Extent): void {
  form.x = Math.round((extent.minX + extent.maxX) / 2)
  form.y = Math.round((extent.minY + extent.maxY) / 2)
  form.fitExtent = box.maxX - box.minX > extent.maxX - extent.minX || box.maxY - box.minY > extent.maxY - extent.minY
}

/** The edit that makes the level as large as what is brought in needs. */
export function widened(
  { settings: { extent } }: Level,
  box: Box2,
  { x, y }: ImportForm,
): (level: Level) => EditResult {
  const wider = {
    minX: Math.min(extent.minX, Math.floor(box.minX + x - MARGIN_M)),
    minY: Math.min(extent.minY, Math.floor(box.minY + y - MARGIN_M)),
    maxX: Math.max(extent.maxX, Math.ceil(box.maxX + x + MARGIN_M)),
    maxY: Math.max(extent.maxY, Math.ceil(box.maxY + y + MARGIN_M)),
  }
  return (level) => changeSettings.apply(level, { set: { extent: wider } })
}
