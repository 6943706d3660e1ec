/** What changed in a level, as it is told to those who did not make the change, and what it needs to be kept. */
import type { Revision } from '@tidytrail/contract'
import { WITH_ASSET, type PatchOp } from '@tidytrail/core/level'
import type { Kept } from './held'

/** How much of what changed is sent with an answer. */
const MOST_TOLD = 500
const MOST_TOLD_LETTERS = 1024 * 1024

/** The parts of a level whose values may refer to assets. */
const MADE_OF_ASSETS = new Set<string>([...WITH_ASSET, 'ground'])

export const asRevision = ({ revision, savedAt, editId, patch }: Kept): Revision => ({
  revision,
  savedAt,
  editId,
  patch,
})

/** What changed as it is sent with an answer, or null when it is too much. */
export function told(since: readonly Kept[]): Revision[] | null {
  if (since.length > MOST_TOLD) return null
  return since.reduce((n, r) => n + r.letters, 0) > MOST_TOLD_LETTERS ? null : since.map(asRevision)
}

/** Assets that something a patch puts in refers to. */
export function assetIdsIn(patch: readonly PatchOp[]): string[] {
  const ids = new Set<string>()
  const visit = (value: unknown, key: string): void => {
    if (key === 'assetId' && typeof value === 'string') ids.add(value)
    if (typeof value === 'object' && value !== null && !Array.isArray(value))
      for (const k in value) visit((value as Record<string, unknown>)[k], k)
  }
  for (const op of patch) {
    if (op.op === 'remove') continue
    const [, top] = op.path.split('/')
    if (MADE_OF_ASSETS.has(top)) visit(op.value, op.path.slice(op.path.lastIndexOf('/') + 1))
  }
  return [...ids]
}
