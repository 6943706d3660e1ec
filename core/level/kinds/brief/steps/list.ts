import { again } from './again'
import { board } from './board'
import { chase } from './chase'
import { flee } from './flee'
import { followRoute } from './follow-route'
import { getOut } from './get-out'
import { goTo } from './go-to'
import { guard } from './guard'
import { hold } from './hold'
import { leave } from './leave'
import { pause } from './pause'
import { search } from './search'
import { shadow } from './shadow'
import { giveSignal, waitSignal } from './signals'
import { stroll } from './stroll'
import { takeObject } from './use-object'
import { takePassage } from './use-passage'
import { wander } from './wander'

/** Every kind of step a brief may have. */
export const STEP_KINDS = [
  followRoute,
  goTo,
  pause,
  wander,
  stroll,
  guard,
  hold,
  shadow,
  chase,
  search,
  flee,
  board,
  getOut,
  takePassage,
  takeObject,
  waitSignal,
  giveSignal,
  again,
  leave,
] as const
