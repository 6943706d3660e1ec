import { boxesMeet, type Box2 } from '@tidytrail/core/geometry'
import type { SurveyView } from '@tidytrail/core/survey'
import { SourceSet, type Source } from './sources'

/** What a look has read, so that it can be told whether any of it has changed since. */
export class Notes {
  private seen: { source: Source; read: (view: SurveyView) => unknown; value: unknown }[] | undefined
  /** The box of all places looked at. */
  private box: Box2 | undefined
  /** Where it looked beside single things. */
  sources = SourceSet.NONE
  /** Ids of the single things it looked at beside its own. */
  things: string[] | undefined

  /** @param own the thing the check is about, which the runner itself watches */
  constructor(
    readonly view: SurveyView,
    private readonly own: string,
  ) {}

  /** Reads something, and notes what it was. */
  note<T>(source: Source, read: (view: SurveyView) => T): T {
    const value = read(this.view)
    this.sources = this.sources.with(source)
    ;(this.seen ??= []).push({ source, read, value })
    return value
  }

  noteThing(id: string): void {
    if (id !== this.own) (this.things ??= []).push(id)
  }

  noteBox(box: Box2): void {
    const b = this.box
    this.box = b
      ? {
          minX: Math.min(b.minX, box.minX),
          minY: Math.min(b.minY, box.minY),
          maxX: Math.max(b.maxX, box.maxX),
          maxY: Math.max(b.maxY, box.maxY),
        }
      : box
  }

  /** Did it look at any place? */
  get places(): boolean {
    return this.box !== undefined
  }

  /** Did it look at a place within one of the boxes? */
  saw(changed: readonly Box2[] | 'everywhere'): boolean {
    if (!this.box) return false
    if (changed === 'everywhere') return true
    for (const box of changed) if (boxesMeet(box, this.box)) return true
    return false
  }

  /** Would reading again from the sources that changed give the same? */
  stillReads(view: SurveyView, stale: ReadonlySet<Source>): boolean {
    if (!this.seen || !this.sources.meets(stale)) return true
    for (const { source, read, value } of this.seen) if (stale.has(source) && read(view) !== value) return false
    return true
  }
}
