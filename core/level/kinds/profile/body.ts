/** What a kind of body can do: what tells its reach, its routes and its card apart from those of others. */
export interface Body<M extends string = string> {
  readonly medium: M
  /** How it gets about, in words. */
  readonly word: string
  /** Does it stand on floors, and so has a step and a slope it can take? */
  readonly stands: boolean
  /** Does it keep itself on the surface of water that is deep enough? */
  readonly floats: boolean
  readonly flies: boolean
  /** Does it jump, drop and climb ladders? */
  readonly jumps: boolean
  /** Can it turn where it stands? What cannot may circle a place for ever that lies within its turning circle. */
  readonly turnsOnTheSpot: boolean
}

export const defineBody = <const M extends string>(body: Body<M>): Body<M> => body
