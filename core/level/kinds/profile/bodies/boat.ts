import { defineBody } from '../body'

export const boat = defineBody({
  medium: 'water',
  word: 'on water',
  stands: false,
  floats: true,
  flies: false,
  jumps: false,
  turnsOnTheSpot: false,
})
