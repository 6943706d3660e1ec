import { isOpenToAll, type Passage } from '@tidytrail/core/level'
import { mayPass } from '@tidytrail/core/reach'
import type { Look } from './check'
import { usualProfile } from './travellers'

/** The profiles that may use a passage and have a reach map: those it names, else all in use that can. */
export function usersOfPassage(look: Look, passage: Passage): string[] {
  const profiles = look.level.all('profiles')
  const spawners = Object.values(look.level.all('spawners'))
  const inUse = new Set(spawners.flatMap((s) => s.profileId ?? []))
  const fallback = usualProfile(look)
  if (fallback) inUse.add(fallback)
  const named = isOpenToAll(passage) ? [...inUse] : passage.profileIds
  const unlocked: Passage = { ...passage, state: 'open' }
  return named
    .filter((id) => profiles[id] && mayPass(unlocked, id, profiles[id]) && look.reach.islandCount(id) !== undefined)
    .sort()
}

export const passageLabel = (passage: Passage) => passage.name || `A ${passage.kind}`
