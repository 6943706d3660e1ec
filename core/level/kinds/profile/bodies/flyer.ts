import { defineBody } from '../body'

export const flyer = defineBody({
  medium: 'air',
  word: 'in the air',
  stands: false,
  floats: false,
  flies: true,
  jumps: false,
  turnsOnTheSpot: false,
})
