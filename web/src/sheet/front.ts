/** The panels of which a small window shows one at a time. */
export type Front = 'register' | 'card' | 'drawer'
