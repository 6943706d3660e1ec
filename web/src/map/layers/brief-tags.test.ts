import { newStep, newWhen, type Level } from '@tidytrail/core/level'
import { at, briefOf, castLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { recordingPen } from '../recording-pen'
import { briefTags, drawBriefTags } from './brief-tags'

const follow = newStep('follow-route', { routeId: 'rt_b' } as never)
const seen = { when: newWhen('sees', 'wn_a'), steps: [newStep('go-to', { markerId: 'mk_a' } as never)] }
const entered = { when: { ...newWhen('zone-entered', 'wn_b'), zoneId: 'zn_w' } as never, steps: [] }
const levelWith = (brief: ReturnType<typeof briefOf>, more: object = {}): Level =>
  castLevel({ briefs: { bf_a: brief }, spawners: { sp_a: at(3, 4, { briefId: 'bf_a', ...more }) } })
const shown = (level: Level, id: string) => briefTags(level, id).map(({ text, at: [x, y] }) => [text, x, y])

describe('a brief on the map', () => {
  it('has its steps numbered where they begin, and its standing sentences lettered where they are set off', () => {
    const level = levelWith(briefOf([follow, newStep('pause'), newStep('wander', { zoneId: 'zn_w' } as never)], [seen, entered])) // prettier-ignore
    const tags = [
      ['1', 50, 40],
      // A pause has no place of its own.
      ['3', 15, 15],
      // Somebody is seen anywhere along it: beside its first step.
      ['a', 50, 40],
      ['a1', 40, 30],
      ['b', 15, 15],
    ]
    expect(shown(level, 'bf_a')).toEqual(tags)
    expect(shown(level, 'sp_a')).toEqual(tags)
    expect(briefTags(level, 'zn_w')).toEqual([])
  })

  it('is filled in as the chosen spawner fills it, and hangs on that when no step has a place', () => {
    const brief = {
      ...briefOf([{ ...follow, routeId: null, blankId: 'bl_a' } as never]),
      blanks: [{ id: 'bl_a', name: 'beat', kind: 'route' as const }],
    }
    const level = levelWith(brief, { fills: [{ blankId: 'bl_a', routeId: 'rt_a' }] })
    expect(shown(level, 'sp_a')).toEqual([['1', 10, 10]])
    expect(shown(level, 'bf_a')).toEqual([])
    expect(shown(levelWith(briefOf([newStep('pause')], [{ ...seen, steps: [] }])), 'sp_a')).toEqual([['a', 3, 4]])
  })

  it('is in the zone of the squad where a step names none', () => {
    const level = castLevel({
      briefs: { bf_a: briefOf([newStep('hold')]) },
      squads: { sq_a: { name: 'Squad', briefId: 'bf_a', zoneId: 'zn_w' } },
      spawners: { sp_a: at(3, 4, { squadId: 'sq_a' }) },
    })
    for (const id of ['sq_a', 'sp_a']) expect(shown(level, id)).toEqual([['1', 15, 15]])
    expect(shown(level, 'bf_a')).toEqual([])
  })

  it('hangs what is at one place side by side, and lights the line that is pointed at', () => {
    const { pen, all } = recordingPen({ x: 50, y: 40, scale: 10, width: 200, height: 200 })
    drawBriefTags(pen, levelWith(briefOf([follow], [{ ...seen, steps: [] }])), 'bf_a', 'wn_a')
    const fills = all.filter((m) => m.call === 'fill').map((m) => m.fill)
    expect(fills).toEqual(['sheet', 'ochre'])
    const [flag] = all.filter((m) => m.call === 'moveTo' && m.args[0] === 91)
    const [round] = all.filter((m) => m.call === 'arc')
    expect(flag).toBeDefined()
    expect(round.args[0]).toBe(120)
  })
})
