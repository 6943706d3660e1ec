import { defineBody } from '../body'

export const walker = defineBody({
  medium: 'foot',
  word: 'on foot',
  stands: true,
  floats: false,
  flies: false,
  jumps: true,
  turnsOnTheSpot: true,
})
