import { defineBody } from '../body'

export const amphibian = defineBody({
  medium: 'amphibious',
  word: 'on land and water',
  stands: true,
  floats: true,
  flies: false,
  jumps: true,
  turnsOnTheSpot: false,
})
