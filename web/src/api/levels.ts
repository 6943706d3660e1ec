import {
  EDIT_ID_HEADER,
  levelListSchema,
  PATCH_TYPE,
  revisionListSchema,
  savedSchema,
  storageSchema,
  type LevelSummary,
  type Saved,
  type Storage,
} from '@tidytrail/contract'
import { readLevel, type Level, type PatchOp } from '@tidytrail/core/level'
import { api } from './client'

export async function listLevels(): Promise<LevelSummary[]> {
  return levelListSchema.parse(await (await api('/levels')).json()).levels
}

export async function fetchLevel(id: string): Promise<{ level: Level; revision: number }> {
  const response = await api(`/levels/${id}`)
  const revision = Number(response.headers.get('etag')?.replaceAll(/\D/g, '') ?? 0)
  return { level: readLevel(await response.json()), revision }
}

async function make(body: unknown): Promise<Saved> {
  return savedSchema.parse(await (await api('/levels', { method: 'POST', body })).json())
}

export const makeBlank = (name: string) => make({ blank: { name } })
export const makeCopy = (of: string) => make({ copyOf: of })
export const makeFrom = (document: Level) => make({ document })

export async function deleteLevel(id: string): Promise<void> {
  await api(`/levels/${id}`, { method: 'DELETE' })
}

export async function restoreLevel(id: string): Promise<void> {
  await api(`/levels/${id}/restore`, { method: 'POST', body: {} })
}

export async function saveLevel(id: string, revision: number, editId: string, ops: readonly PatchOp[]): Promise<Saved> {
  const headers = { 'content-type': PATCH_TYPE, 'if-match': `"${revision}"`, [EDIT_ID_HEADER]: editId }
  return savedSchema.parse(await (await api(`/levels/${id}`, { method: 'PATCH', body: ops, headers })).json())
}

/** The changes after a revision, oldest first, as many as come at once. */
export async function fetchRevisions(id: string, since: number) {
  return revisionListSchema.parse(await (await api(`/levels/${id}/revisions?since=${since}`)).json())
}

export async function fetchStorage(): Promise<Storage> {
  return storageSchema.parse(await (await api('/storage')).json())
}
