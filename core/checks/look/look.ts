import { LookAtGraph } from './graph'
import { LookAtGround } from './ground'
import { LookAtLanes } from './lanes'
import { LookAtLevel } from './level'
import type { Notes } from './notes'
import { LookAtReach } from './reach'

/** The eyes of a check, room by room. Everything it is asked for is noted down. */
export class Look {
  readonly level: LookAtLevel
  readonly ground: LookAtGround
  readonly reach: LookAtReach
  readonly graph: LookAtGraph
  readonly lanes: LookAtLanes

  constructor(notes: Notes) {
    this.level = new LookAtLevel(notes)
    this.ground = new LookAtGround(notes)
    this.reach = new LookAtReach(notes)
    this.graph = new LookAtGraph(notes)
    this.lanes = new LookAtLanes(notes)
  }
}
