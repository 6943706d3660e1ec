import { describe, expect, it } from 'vitest'
import { movePlaces, readLevelFile, writeLevelFile } from '@tidytrail/core/level'
import { preset, rehearsed, travelLevel } from '@tidytrail/core/testing'
import { readScript, type Command, type Script } from '.'

const level = travelLevel(
  preset('Warden'),
  [
    [10, 10],
    [40, 10],
    [40, 40],
  ],
  { route: { travel: 'round' }, spawner: { standIn: true }, sideM: 60 },
)
const moved = movePlaces.apply(level, { places: { wp_2: [20, 45, 0] } }).patch
const commands: Command[] = [
  { step: 60, do: 'edit', patch: moved },
  { step: 90, do: 'steer', agent: 'sp_a#1', x: 0, y: 1, mps: 1.5 },
  { step: 120, do: 'noise', agent: 'sp_a#1' },
  { step: 150, do: 'let-go', agent: 'sp_a#1' },
]
const script: Script = { seed: 5, seconds: 20, commands }

describe('a run that goes with a level file', () => {
  it('comes back as it was, and gives the very same recording', () => {
    const file = readLevelFile(writeLevelFile(level, new Map(), script))
    const back = readScript(file.run, file.level)
    expect(back).toEqual(script)
    const hash = rehearsed(level, 20, 5, commands).hash
    expect(rehearsed(file.level, back.seconds, back.seed, back.commands).hash).toBe(hash)
    // What was done matters: without it, it is another run.
    expect(rehearsed(level, 20, 5).hash).not.toBe(hash)
  })

  it('leaves the level what it is for those who want no run', () => {
    expect(readLevelFile(writeLevelFile(level, new Map(), script)).level).toEqual(level)
    expect(readLevelFile(writeLevelFile(level, new Map())).run).toBeUndefined()
  })

  it.each<[string, unknown, string]>([
    ['no run at all', 7, 'run'],
    ['a seed that is none', { ...script, seed: -1 }, 'run.seed'],
    ['a command nobody knows', { ...script, commands: [{ step: 1, do: 'dance' }] }, 'run.commands.0'],
    [
      'steering at no speed',
      { ...script, commands: [commands[0], { ...commands[1], mps: 'fast' }] },
      'run.commands.1.mps',
    ],
    ['commands out of order', { ...script, commands: [commands[1], commands[0]] }, 'run.commands.1.step'],
    [
      'an edit that breaks the level',
      { ...script, commands: [{ step: 3, do: 'edit', patch: [{ op: 'remove', path: '/waypoints/wp_2' }] }] },
      'run.commands.0.patch',
    ],
    [
      'an edit of what is not there',
      { ...script, commands: [{ step: 3, do: 'edit', patch: [{ op: 'remove', path: '/routes/rt_z/name' }] }] },
      'run.commands.0.patch',
    ],
  ])('is refused with the place of the fault: %s', (_, value, place) => {
    expect(() => readScript(value, level)).toThrow(place)
  })
})
