import type { Collection, Level, ThingOf } from '@tidytrail/core/level'
import type { Component } from 'vue'
import type { HitTest } from '../map/hit'
import type { Layer, Painter } from '../map/layer'
import type { OverlookPart } from '../overlook/part'
import type { StageId } from '../stores/sheet'
import type { MapPointer, MakeTool, ToolContext } from '../tools/tool'
import type { Register } from './register'

/** Places of a chosen thing that can be dragged by themselves. */
export interface Handles<C extends Collection> {
  /** Are they all there is to drag, so that the thing is not moved whole? */
  readonly only?: true
  at(thing: ThingOf<C>, level: Level): readonly (readonly number[])[]
  /** What becomes of the thing when a handle is dragged to the pointer. */
  drag(thing: ThingOf<C>, handle: number, p: MapPointer, context: ToolContext): Partial<ThingOf<C>>
}

/**
 * How a kind of thing is shown and handled. Whatever a kind does not say of itself is derived from what the core knows
 * of it: it is drawn by its places and outlines, found under the pointer by them, and has a card with the fields of its
 * schema.
 */
export interface KindView<C extends Collection = Collection> {
  readonly in: C
  /** The stage whose register lists it, and on which what lies flat can be taken hold of. */
  readonly stage: StageId
  /** The layer it is shown with; several kinds may share one. */
  readonly layer: Layer
  /** The colour of the word for its kind on its card. */
  readonly tone: string
  /** What a thing of it is called on its card. */
  word?(thing: ThingOf<C>): string
  readonly card?: Component
  /** How it is drawn, in one or several goes; by its places and outlines when it does not say. */
  readonly painters?: readonly Painter[]
  readonly hits?: readonly HitTest[]
  readonly handles?: Handles<C>
  /** The list in the register of its stage; false for none. One that is made from the kind is shown once there is a thing. */
  readonly register?: Register | false
  readonly tools?: readonly MakeTool[]
  /** What it says in the list of everything that can be found; false when it is found in other ways. */
  readonly found?: ((level: Level, id: string) => { name: string; kind: string }) | false
  /** What is drawn of it in the Overlook, fetched only when somebody looks. */
  readonly overlook?: () => Promise<OverlookPart>
}

export const defineView = <C extends Collection>(view: KindView<C>): KindView => view as unknown as KindView
