import type { Engine } from './engine'
import { STATE } from './world'

/** Moves every body by its own model. */
export function move(engine: Engine): void {
  const { world, scenario } = engine
  const { key, state, profile } = world
  for (let n = 0; n < world.count; n++) {
    if (key[n] === 0 || state[n] === STATE.crossing) continue
    scenario.profiles[profile[n]]?.body.move(engine, n)
  }
}
