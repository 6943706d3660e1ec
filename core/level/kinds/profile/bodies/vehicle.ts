import { defineBody } from '../body'

export const vehicle = defineBody({
  medium: 'wheels',
  word: 'on wheels',
  stands: true,
  floats: false,
  flies: false,
  jumps: false,
  turnsOnTheSpot: false,
})
