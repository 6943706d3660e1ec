import { produceWithPatches, type Draft } from 'immer'
import { toJsonPatch, type PatchOp } from './patch'
import type { Level } from './schema'

/** What an edit did: the new level, the way there and the way back. */
export interface EditResult {
  level: Level
  patch: PatchOp[]
  inverse: PatchOp[]
}

/** A change somebody can make to a level. `label` is what the undo list calls it. */
export interface Edit<Args> {
  label: (level: Level, args: Args) => string
  apply: (level: Level, args: Args) => EditResult
}

/**
 * An edit from a recipe that changes a draft. What is only looked at is better looked at in the base, the level as it
 * was: reading a draft costs as much as changing it. There is no other way to change a level.
 */
export function defineEdit<Args>(
  label: Edit<Args>['label'],
  recipe: (draft: Draft<Level>, args: Args, base: Level) => void,
): Edit<Args> {
  return {
    label,
    apply(level, args) {
      const [next, patches, inverse] = produceWithPatches(level, (draft) => recipe(draft, args, level))
      return {
        level: next,
        patch: toJsonPatch(patches, level, next),
        inverse: toJsonPatch(inverse, next, level),
      }
    },
  }
}
