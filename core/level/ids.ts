/** The kinds of thing a level holds, with the prefix their ids carry. */
export const ID_PREFIX = {
  waypoints: 'wp',
  links: 'ln',
  routes: 'rt',
  stops: 'st',
  zones: 'zn',
  posts: 'ps',
  profiles: 'pf',
  factions: 'fc',
  spawners: 'sp',
  briefs: 'br',
  steps: 'bs',
  solids: 'sd',
  meshes: 'ms',
  underlays: 'ul',
  covers: 'cv',
  passages: 'pg',
  junctions: 'jn',
  markers: 'mk',
  reachAreas: 'ra',
  waivers: 'wv',
} as const

export type IdKind = keyof typeof ID_PREFIX

const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789'
const ID_LENGTH = 8

/**
 * A new id, such as `wp_k3v9xq2a`.
 * @param random gives a number in [0, 1); the core has no chance of its own
 */
export function newId(kind: IdKind, random: () => number): string {
  let id = `${ID_PREFIX[kind]}_`
  for (let i = 0; i < ID_LENGTH; i++) id += LETTERS[Math.floor(random() * LETTERS.length)]
  return id
}
