import { describe, expect, it } from 'vitest'
import { levelSchema, type Level } from '@tidytrail/core/level'
import { box, preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import type { Command, Run } from '.'

/** A warden who stands at (20, 20) and faces east, and a thief on a way of their own. */
function watched(
  thief: readonly [number, number][],
  solids: Parameters<typeof box>[number][] | object = {},
  more = {},
): Level {
  const level = travelLevel(preset('Warden'), thief, {
    spawner: { name: 'Thief', factionId: 'fc_n', standIn: true },
    solids: solids as never,
    ...more,
  })
  const faction = (name: string) => ({ name, hostileTo: [] })
  return levelSchema.parse({
    ...level,
    factions: { fc_w: faction('Watch'), fc_n: faction('Night') },
    spawners: {
      ...level.spawners,
      sp_w: {
        ...level.spawners.sp_a,
        name: 'Watcher',
        at: [20, 20, 0],
        briefId: null,
        factionId: 'fc_w',
        standIn: false,
        facingRad: 0,
      },
    },
  })
}
const told = (run: Run, kind: string) => run.engine.events.list.filter((e) => e.kind === kind).map((e) => e.step / 30)
const seen = (level: Level, seconds = 40, commands: Command[] = []) => rehearsed(level, seconds, 1, commands)

describe('somebody is seen', () => {
  it('when within range and angle, from the moment they come into it until they leave it', () => {
    // Walks north at x = 30, ten metres before the watcher, whose wedge of 120° is 17.3 m to either side there.
    const run = seen(
      watched([
        [30, 50],
        [30, 1],
      ]),
    )
    const [from] = told(run, 'saw')
    const [until] = told(run, 'lost')
    // It walks at 1.4 m/s: from y = 50 to y = 37.3, and on to 2.7.
    expect(from).toBeCloseTo((50 - 37.3) / 1.4, 0)
    expect(until - from).toBeCloseTo(34.6 / 1.4, 0)
  })

  it('not behind a wall, nor over one lower than the eye is it hidden', () => {
    const behind = (heightM: number) =>
      watched(
        [
          [30, 22],
          [30, 18],
        ],
        { sd_w: box(25, 10, 25.2, 30, heightM) },
      )
    expect(told(seen(behind(3), 8), 'saw')).toEqual([])
    expect(told(seen(behind(1), 8), 'saw').length).toBe(1)
    const glass = watched(
      [
        [30, 22],
        [30, 18],
      ],
      { sd_w: box(25, 10, 25.2, 30, 3, { blocksSight: false }) },
    )
    expect(told(seen(glass, 8), 'saw').length).toBe(1)
  })

  it('not by their own faction, unless they stand in for a player', () => {
    const level = watched([
      [30, 22],
      [30, 18],
    ])
    level.spawners.sp_w.factionId = 'fc_n'
    expect(told(seen(level, 8), 'saw').length).toBe(1)
    level.spawners.sp_a.standIn = false
    expect(told(seen(level, 8), 'saw')).toEqual([])
  })
})

describe('somebody is heard', () => {
  const behind = [
    [8, 24],
    [8, 16],
  ] as const
  it('walking within earshot though not in sight, and not standing still', () => {
    const near = watched([
      [13, 24],
      [13, 16],
    ])
    expect(told(seen(near, 8), 'heard').length).toBeGreaterThan(0)
    expect(told(seen(near, 8), 'saw')).toEqual([])
    const standing = watched(
      [
        [13, 20],
        [13.2, 20],
      ],
      {},
      { spawner: { name: 'Thief', factionId: 'fc_n', standIn: true, briefId: null } },
    )
    expect(told(seen(standing, 8), 'heard')).toEqual([])
  })

  it('farther off when they make a noise', () => {
    const level = watched(behind.map(([x, y]): [number, number] => [x, y]))
    expect(told(seen(level, 4), 'heard')).toEqual([])
    const noisy = seen(level, 4, [{ step: 60, do: 'noise', agent: 'sp_a#1' }])
    expect(told(noisy, 'heard')[0]).toBeCloseTo(2, 0)
  })

  it('half as far through a wall', () => {
    const wall = { sd_w: box(16, 0, 16.2, 60, 3) }
    expect(
      told(
        seen(
          watched(
            [
              [13, 24],
              [13, 16],
            ],
            wall,
          ),
          8,
        ),
        'heard',
      ),
    ).toEqual([])
    expect(
      told(
        seen(
          watched([
            [17, 24],
            [17, 16],
          ]),
          8,
        ),
        'heard',
      ).length,
    ).toBeGreaterThan(0)
  })
})
