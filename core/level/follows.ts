import type { Changes } from './edit'
import { layLanes } from './edits/lay-lanes'

/** What else of a level is changed by every edit that changes a thing of a collection, so that both stay true. */
export const FOLLOWS: readonly { readonly in: string; follow(changes: Changes, id: string): void }[] = [
  { in: 'roads', follow: layLanes },
]
