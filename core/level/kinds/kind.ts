import type { z } from 'zod'

/**
 * What becomes of a reference when the thing it names is deleted or is not there: it is cleared, taken out of its list,
 * or the thing (or part of a thing) that holds it goes as well. A restriction that loses its last profile stays one
 * that names nobody, and a finding says so.
 */
export type OnLost = 'clear' | 'drop' | 'keep-and-find' | 'delete'

/** A reference from a thing to another. */
export interface Ref {
  /** From the thing, `*` standing for any key: `stops.*.waypointId`. */
  readonly path: string
  readonly to: string
  readonly onLost: OnLost
  /** The thing lies where what it names lies: it is moved, shown and copied with it. */
  readonly stands?: true
  /** What it names goes with it when nothing else names that. */
  readonly orphans?: true
}

/** Things inside a thing that have ids of their own and are kept in the order its `order` names. */
export interface Parts<I extends string = string> {
  readonly in: I
  readonly prefix: string
  readonly word: string
}

/** A kind of thing a level may hold. All else that is said of kinds of things is derived from these. */
export interface Kind<C extends string = string, S extends z.ZodType = z.ZodType, I extends string = string> {
  /** The collection its things are in. */
  readonly in: C
  /** What its ids begin with: two letters. */
  readonly prefix: string
  readonly word: string
  /** More than one of them, where an s is not enough. */
  readonly plural?: string
  readonly schema: S
  readonly refs?: readonly Ref[]
  readonly parts?: Parts<I>
  /** Does it stand for itself, so that a copy is a thing of its own? */
  readonly stands?: boolean
  /** How many a level may hold, where the usual number is not meant. */
  readonly most?: number
}

export const defineKind = <const C extends string, S extends z.ZodType, const I extends string = never>(
  kind: Kind<C, S, I>,
): Kind<C, S, I> => kind

/** The reference a restriction is made of. */
export const RESTRICTS: Ref = { path: 'profileIds.*', to: 'profiles', onLost: 'keep-and-find' }
