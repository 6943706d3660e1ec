import type { Medium } from '@tidytrail/core/level'

export const MEDIUM_WORDS: Record<Medium, string> = {
  foot: 'on foot',
  wheels: 'on wheels',
  water: 'afloat',
  air: 'in the air',
  amphibious: 'land and water',
}
