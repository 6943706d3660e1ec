/** Drawing that is done bit by bit between frames, so that none of them waits for all of it. */

/** Goes on with what is drawn until it has come to its end; each step is a good place to stop. */
export type Steps = Iterator<unknown, void>

/** Part of what there is to draw may be drawn in steps. */
export type Drawn = void | Steps

const isSteps = (drawn: Drawn): drawn is Steps => drawn !== undefined

/** All steps of several drawings one after the other; what is drawn in one go is one step. */
export function* inTurn(drawings: Iterable<() => Drawn>): Generator<void, void> {
  for (const draw of drawings) {
    const drawn = draw()
    if (isSteps(drawn)) while (!drawn.next().done) yield
    yield
  }
}

/** Draws all there is to draw at once. */
export function allOf(drawn: Drawn): void {
  if (isSteps(drawn)) while (!drawn.next().done);
}

/** How fast what was told to be drawn is really drawn is known only afterwards; at first as much is reckoned again. */
const FIRST_SHARE = 0.25
const LEAST_SHARE = 0.08
/** How much the last time counts beside those before, when it took longer and when less long. */
const FALLS = 0.8
const RISES = 0.15

/**
 * A drawing under way. A canvas takes note of what is to be drawn and draws it later: `settle` makes it draw what it
 * has noted, and what that takes counts too.
 */
export class Sliced {
  private steps: Steps | undefined
  /** What share of the time goes into telling what to draw. */
  private share = FIRST_SHARE

  constructor(
    private readonly settle: () => void,
    private readonly now: () => number = () => performance.now(),
  ) {}

  get busy(): boolean {
    return this.steps !== undefined
  }

  /** Begins anew; what was not finished is let go. */
  begin(steps: Steps): void {
    this.steps = steps
  }

  /** Draws for about so long; true when it has come to its end with this. */
  work(forMs: number): boolean {
    if (!this.steps) return false
    const from = this.now()
    const until = from + forMs * this.share
    let done: boolean
    do done = this.steps.next().done === true
    while (!done && this.now() < until)
    const told = this.now()
    this.settle()
    const all = Math.max(1e-3, this.now() - from)
    if (all > 1) {
      const seen = Math.max(LEAST_SHARE, (told - from) / all)
      // Less is told at once, more only by and by: what comes next may take longer to draw than what came before.
      this.share += (seen < this.share ? FALLS : RISES) * (seen - this.share)
    }
    if (done) this.steps = undefined
    return done
  }
}
