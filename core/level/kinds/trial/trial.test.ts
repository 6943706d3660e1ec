import { describe, expect, it } from 'vitest'
import { blankLevel, readLevel, removeThings, trialSchema, type LevelInput } from '../..'

const level = readLevel({
  ...blankLevel('Trials'),
  factions: { fc_watch: { name: 'Watch' } },
  watchSpots: { ws_door: { name: 'Door', at: [1, 1, 0], factionIds: ['fc_watch'] } },
  sneakLines: { sl_past: { name: 'Past', points: [[0, 0, 0], [5, 0, 0]] } }, // prettier-ignore
  trials: {
    tl_a: { kind: 'spot', spotId: 'ws_door' },
    tl_b: { kind: 'stuck', whom: 'faction', factionId: 'fc_watch' },
    tl_c: { kind: 'line', lineId: 'sl_past' },
  },
} satisfies LevelInput)

describe('a trial about something that is deleted', () => {
  it('stays one about nothing, and does not become one about everybody', () => {
    const without = removeThings.apply(level, { ids: ['fc_watch', 'ws_door', 'sl_past'] }).level
    expect(without.trials.tl_a).toMatchObject({ kind: 'spot', spotId: null })
    expect(without.trials.tl_b).toMatchObject({ whom: 'faction', factionId: null })
    expect(without.trials.tl_c).toMatchObject({ lineId: null })
  })

  it('and a watch spot loses those who watch it', () => {
    expect(removeThings.apply(level, { ids: ['fc_watch'] }).level.watchSpots.ws_door.factionIds).toEqual([])
  })
})

it('cannot be about what there is no word for, or have a line of one place', () => {
  expect(() => trialSchema.parse({ kind: 'luck' })).toThrow(/kind/)
  expect(() => readLevel({ ...level, sneakLines: { sl_a: { name: 'A', points: [[0, 0, 0]] } } })).toThrow(
    /sl_a.points.*at least two places/,
  )
})
