import { describe, expect, it } from 'vitest'
import { newStep, newWhen, type LevelInput } from '@tidytrail/core/level'
import { at, box, briefOf, castLevel, rehearsed, rowsOfSpawner, type Row } from '@tidytrail/core/testing'

const far = (a: Pick<Row, 'x' | 'y'>, x: number, y: number) => Math.hypot(a.x - x, a.y - y)

describe('standing sentences', () => {
  const pausing = (kind: Parameters<typeof newWhen>[0], more: object, rest: Partial<LevelInput> = {}) =>
    castLevel({
      briefs: {
        br_a: briefOf(
          [newStep('pause', { forS: 1000 })],
          [{ when: newWhen(kind, 'bw_a', more as never), steps: [newStep('go-to', { markerId: 'mk_a' })] }],
        ),
        ...rest.briefs,
      },
      spawners: {
        sp_a: at(40, 10, { briefId: 'br_a', factionId: 'fc_w', facingRad: Math.PI / 2 }),
        ...rest.spawners,
      },
      ...(rest.markers ? { markers: { mk_a: { name: 'Bell', at: [40, 30, 0] }, ...rest.markers } } : {}),
    })
  const went = (level: ReturnType<typeof castLevel>, seconds = 40) => {
    const rows = rowsOfSpawner(rehearsed(level, seconds), 'sp_a').map((r) => r[0])
    const k = rows.findIndex((r) => far(r, 40, 10) > 1)
    return k < 0 ? undefined : k / 10
  }
  const walker = (from: [number, number], to: [number, number], more: object = {}) => ({
    briefs: { br_t: briefOf([newStep('go-to', { markerId: 'mk_t' }), newStep('leave')]) },
    markers: { mk_t: { name: 'To', at: [...to, 0] as [number, number, number] } },
    spawners: { sp_t: at(...from, { factionId: 'fc_n', briefId: 'br_t', ...more }) },
  })

  it('begin when somebody is seen within so far, and not behind its back', () => {
    const seen = went(pausing('sees', { withinM: 12 }, walker([60, 18], [20, 18])))
    expect(seen).toBeGreaterThan(6)
    expect(seen).toBeLessThan(16)
    expect(went(pausing('sees', { withinM: 4 }, walker([60, 18], [20, 18])))).toBeUndefined()
    expect(went(pausing('sees', {}, walker([60, 3], [20, 3])))).toBeUndefined()
  })

  it('begin when somebody is heard, touches it, enters a zone, or has left', () => {
    expect(went(pausing('hears', {}, walker([45, 4], [35, 4])))).toBeDefined()
    expect(went(pausing('hears', {}, walker([75, 2], [76, 2])))).toBeUndefined()
    expect(went(pausing('touched', {}, walker([44, 10], [37, 10])))).toBeDefined()
    const zone = went(pausing('zone-entered', { zoneId: 'zn_w' }, walker([30, 15], [10, 15])))
    // Five metres at a walk.
    expect(zone).toBeGreaterThan(3)
    expect(zone).toBeLessThan(6.5)
    const left = went(pausing('left', { spawnerId: 'sp_t' }, walker([70, 5], [77, 5])))
    expect(left).toBeGreaterThan(4)
    expect(left).toBeLessThan(9)
  })

  it('begin when so much time has passed, once', () => {
    const level = pausing('time', { afterS: 12 })
    expect(went(level)).toBeCloseTo(12.8, 0)
    expect(rehearsed(level, 120).engine.events.list.filter((e) => e.kind === 'interrupted')).toHaveLength(1)
  })

  it('begin when it gets no farther', () => {
    const level = castLevel(
      {
        briefs: {
          br_a: briefOf(
            [newStep('go-to', { markerId: 'mk_t' })],
            [{ when: newWhen('blocked', 'bw_a', { forS: 4 }), steps: [newStep('go-to', { markerId: 'mk_a' })] }],
          ),
          br_b: briefOf([newStep('pause', { forS: 1000 })]),
        },
        markers: { mk_a: { name: 'Bell', at: [10, 30, 0] }, mk_t: { name: 'End', at: [40, 30, 0] } },
        spawners: {
          sp_a: at(20, 30, { briefId: 'br_a' }),
          sp_b: at(30, 30, { briefId: 'br_b' }),
        },
      },
      { sd_a: box(25, -1, 35, 29.4, 3), sd_b: box(25, 30.6, 35, 61, 3) },
    )
    const run = rehearsed(level, 60)
    expect(run.engine.events.list.some((e) => e.kind === 'interrupted')).toBe(true)
    expect(Math.min(...rowsOfSpawner(run, 'sp_a').map(([r]) => far(r, 10, 30)))).toBeLessThan(1)
  })

  it('end by taking up what they broke off, with the time that was left of it', () => {
    const level = castLevel({
      briefs: {
        br_a: briefOf(
          [newStep('pause', { forS: 30 }), newStep('go-to', { markerId: 'mk_a' })],
          [{ when: newWhen('time', 'bw_a', { afterS: 10 }), steps: [newStep('pause', { forS: 20 })] }],
        ),
      },
      spawners: { sp_a: at(40, 10, { briefId: 'br_a' }) },
    })
    expect(went(level, 70)).toBeCloseTo(50.8, 0)
    const next = structuredClone(level)
    next.briefs.br_a.whens[0].after = 'next'
    expect(went(next, 70)).toBeCloseTo(30.8, 0)
  })
})

describe('signals, passages and blanks', () => {
  it('somebody waits for a signal and goes on when it is given, or gives up waiting', () => {
    const level = (limitS: number | null) =>
      castLevel({
        signals: { sg_a: { name: 'Bell' } },
        briefs: {
          br_a: briefOf([newStep('wait-signal', { signalId: 'sg_a', limitS }), newStep('go-to', { markerId: 'mk_a' })]),
          br_b: briefOf([newStep('pause', { forS: 12 }), newStep('give-signal', { signalId: 'sg_a' })]),
          br_c: briefOf(
            [newStep('pause', { forS: 900 })],
            [{ when: newWhen('signal', 'bw_a', { signalId: 'sg_a' }), steps: [newStep('leave')] }],
          ),
        },
        spawners: {
          sp_a: at(40, 10, { briefId: 'br_a' }),
          sp_b: at(60, 10, { briefId: 'br_b' }),
          sp_c: at(65, 10, { briefId: 'br_c' }),
        },
      })
    const set = (limitS: number | null) => {
      const run = rehearsed(level(limitS), 30)
      return { went: rowsOfSpawner(run, 'sp_a').findIndex(([r]) => far(r, 40, 10) > 0.5) / 10, run }
    }
    const heard = set(null)
    expect(heard.went).toBeGreaterThan(12)
    expect(heard.went).toBeLessThan(13.2)
    expect(set(5).went).toBeGreaterThan(5)
    expect(set(5).went).toBeLessThan(6.2)
    // A standing sentence hears it too.
    const gone = rowsOfSpawner(heard.run, 'sp_c').findIndex((r) => r.length === 0) / 10
    expect(gone).toBeGreaterThan(12)
    expect(gone).toBeLessThan(12.6)
  })

  it('a passage is used though there is a way without it, from the end that is nearer', () => {
    const level = castLevel({
      passages: { pg_a: { name: 'Hatch', kind: 'portal', from: [45, 30, 0], to: [70, 30, 0], takesS: 2 } },
      briefs: {
        br_a: briefOf([
          newStep('use-passage', { passageId: 'pg_a' }),
          newStep('pause', { forS: 2 }),
          newStep('use-passage', { passageId: 'pg_a' }),
        ]),
      },
      spawners: { sp_a: at(40, 30, { briefId: 'br_a' }) },
    })
    const run = rehearsed(level, 30)
    expect(run.engine.events.list.filter((e) => e.kind === 'crossed')).toHaveLength(2)
    const rows = rowsOfSpawner(run, 'sp_a').map((r) => r[0])
    expect(Math.max(...rows.map((r) => r.x))).toBeGreaterThan(69)
    expect(far(rows.at(-1)!, 45, 30)).toBeLessThan(0.7)
  })

  it('what is left to each spawner is filled in there, and a brief serves both', () => {
    const level = castLevel({
      briefs: {
        br_a: {
          ...briefOf([newStep('follow-route', { blankId: 'bl_a', gaitBlankId: 'bl_b' })]),
          blanks: [
            { id: 'bl_a', name: 'beat', kind: 'route' },
            { id: 'bl_b', name: 'pace', kind: 'gait' },
          ],
        },
      },
      spawners: {
        sp_a: at(12, 10, { briefId: 'br_a', fills: [{ blankId: 'bl_a', routeId: 'rt_a' }] }),
        sp_b: at(52, 40, {
          briefId: 'br_a',
          fills: [
            { blankId: 'bl_a', routeId: 'rt_b' },
            { blankId: 'bl_b', gait: 'run' },
          ],
        }),
        sp_c: at(40, 20, { briefId: 'br_a' }),
      },
    })
    const run = rehearsed(level, 40)
    const ends = (id: string) => rowsOfSpawner(run, id).map((r) => r[0])
    expect(Math.max(...ends('sp_a').map((r) => r.x))).toBeLessThan(21)
    expect(Math.min(...ends('sp_b').map((r) => r.x))).toBeGreaterThan(49)
    expect(Math.max(...ends('sp_a').map((r) => r.speed))).toBeLessThan(1.5)
    expect(Math.max(...ends('sp_b').map((r) => r.speed))).toBeGreaterThan(3)
    // Who has filled in nothing stands, and the verdict says why.
    expect(far(ends('sp_c').at(-1)!, 40, 20)).toBeLessThan(0.1)
    expect(run.verdicts().find((v) => v.spawnerId === 'sp_c')!.reasons[0]).toContain('none is chosen')
  })

  it('take up what they broke off though a step before it had failed', () => {
    const level = castLevel({
      briefs: {
        br_a: briefOf(
          [newStep('go-to', { markerId: null }), newStep('follow-route', { routeId: 'rt_a' })],
          [{ when: newWhen('time', 'bw_a', { afterS: 10 }), steps: [newStep('pause', { forS: 3 })] }],
        ),
      },
      spawners: { sp_a: at(12, 10, { briefId: 'br_a' }) },
    })
    const rows = rowsOfSpawner(rehearsed(level, 60), 'sp_a').map((r) => r[0])
    // Long after, it still walks its round.
    expect(Math.max(...rows.slice(400).map((r) => r.speed))).toBeGreaterThan(1)
    expect(new Set(rows.slice(300).map((r) => Math.round(r.x))).size).toBeGreaterThan(8)
  })
})
