import { defineEdit } from '../edit'
import type { Settings } from '../schema'

export const renameLevel = defineEdit<{ name: string }>(
  () => 'Rename the level',
  (draft, { name }) => {
    draft.name = name.trim() || draft.name
  },
)

export const changeSettings = defineEdit<{ set: Partial<Settings> }>(
  () => 'Change the level settings',
  (draft, { set }) => {
    Object.assign(draft.settings, set)
  },
)

export const waive = defineEdit<{ id: string; check: string; subjects: string[]; reason: string }>(
  (_level, { check }) => `Waive ${check}`,
  (draft, { id, ...waiver }) => {
    draft.waivers[id] = waiver
  },
)
