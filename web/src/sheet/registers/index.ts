import type { Component } from 'vue'
import { KIND_REGISTERS } from '../../kinds'
import type { Register } from '../../kinds/register'
import type { StageId } from '../../stores/sheet'
import CastRegister from './CastRegister.vue'
import { islandRegister } from './islands'
import RehearseRegister from './RehearseRegister.vue'
import SignOffRegister from './SignOffRegister.vue'
import StageRegister from './StageRegister.vue'

/** Lists of the register, those that are not of kinds of things first. */
const REGISTERS: readonly Register[] = [islandRegister, ...KIND_REGISTERS]

/** The lists of a stage. */
export const registersOf = (stage: StageId): readonly Register[] => REGISTERS.filter((r) => r.stage === stage)

/** What shows the register of each stage. */
export const STAGE_REGISTERS: Record<StageId, Component> = {
  ground: StageRegister,
  reach: StageRegister,
  routes: StageRegister,
  cast: CastRegister,
  rehearse: RehearseRegister,
  'sign-off': SignOffRegister,
}
