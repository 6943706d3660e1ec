import fc from 'fast-check'
import jsonPatch, { type Operation } from 'fast-json-patch'
import { smallLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { assertEdited, blankLevel, Ledger, LevelError, readLevel, unitAt, type IncomingOp, type Level } from '.'

const start = smallLevel
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
const refusal = (ops: IncomingOp[], of = start()): LevelError => {
  const before = copy(of)
  const ledger = new Ledger(of)
  try {
    ledger.apply(ops)
  } catch (error) {
    // Whatever was refused has left nothing behind, in the books neither.
    expect(ledger.level).toEqual(before)
    ledger.apply([{ op: 'replace', path: '/note', value: 'still works' }])
    if (error instanceof LevelError) return error
    throw error
  }
  throw new Error('was accepted')
}

const path = fc.constantFrom(
  '/note',
  '/name',
  '/settings/gridM',
  '/settings/cellM',
  '/settings/extent/maxX',
  '/settings/extent',
  '/settings/limits/stuckS/fail',
  '/waypoints',
  '/waypoints/wp_a',
  '/waypoints/wp_b/at',
  '/waypoints/wp_b/at/1',
  '/waypoints/wp_c/tags/0',
  '/waypoints/wp_c/tags/-',
  '/waypoints/wp_new',
  '/waypoints/wp_c',
  '/links/ln_a',
  '/links/ln_a/toId',
  '/links/ln_b',
  '/routes/rt_a',
  '/routes/rt_a/order',
  '/routes/rt_a/order/0',
  '/routes/rt_a/stops/st_a',
  '/routes/rt_a/stops/st_c',
  '/routes/rt_a/stops/st_a/pause/minS',
  '/routes/rt_a/linkIds/0',
  '/routes/rt_a/linkIds',
  '/solids/sd_a',
  '/solids/sd_a/shape',
  '/solids/sd_a/sizeX',
  '/solids/sd_b/ring/1',
  '/solids/sd_b/ring/2/0',
  '/ground/heights',
  '/ground/heights/rows/1',
  '/ground/heights/rows/1/0',
  '/spawners/sp_a',
  '/nothing',
)
const value = fc.constantFrom<unknown>(
  1,
  -3,
  0,
  2.5,
  1e9,
  '',
  'text',
  null,
  true,
  [],
  [1, 2],
  [1, 2, 3],
  ['st_a', 'st_b'],
  ['st_b', 'st_a'],
  ['ln_a'],
  {},
  'wp_a',
  'wp_c',
  'wp_none',
  { at: [1, 2, 3] },
  { fromId: 'wp_b', toId: 'wp_c' },
  { waypointId: 'wp_c' },
  { name: 'S', at: [0, 0, 0], profileId: 'pf_warden' },
  { minX: 0, minY: 0, maxX: 50, maxY: 50 },
  { shape: 'cylinder', name: 'C', at: [1, 1], radiusM: 1, baseM: 0, heightM: 1 },
)
const op: fc.Arbitrary<IncomingOp> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ op: fc.constantFrom('add' as const, 'replace' as const), path, value }) },
  fc.record({ op: fc.constant('remove' as const), path }),
  fc.record({ op: fc.constantFrom('move' as const, 'copy' as const), path, from: path }),
  fc.record({ op: fc.constant('test' as const), path, value }),
)

describe('a ledger', () => {
  it('accepts just what reading the whole patched document accepts, gives the same, and can go back', () => {
    let accepted = 0
    fc.assert(
      fc.property(fc.array(op, { minLength: 1, maxLength: 4 }), (ops) => {
        const ledger = new Ledger(start())
        let whole: Level | undefined
        try {
          // The slow, obvious way: a library patches the document, and all of it is read anew.
          whole = readLevel(jsonPatch.applyPatch(copy(start()), copy(ops) as Operation[], true, true, true).newDocument)
        } catch {
          whole = undefined
        }
        let entry
        try {
          entry = ledger.apply(copy(ops))
        } catch (error) {
          expect(error).toBeInstanceOf(LevelError)
          expect(ledger.level).toEqual(start())
        }
        expect(entry !== undefined, JSON.stringify(ops)).toBe(whole !== undefined)
        if (!entry) return
        accepted++
        expect(ledger.level).toEqual(whole)
        const after = copy(ledger.level)
        ledger.apply(copy(entry.inverse))
        expect(ledger.level).toEqual(start())
        ledger.apply(copy(entry.patch))
        expect(ledger.level).toEqual(after)
      }),
      { numRuns: 3_000 },
    )
    expect(accepted).toBeGreaterThan(25)
  })

  it('does not mind what came and went again within one patch', () => {
    const ledger = new Ledger(start())
    ledger.apply([
      { op: 'add', path: '/nothing', value: 1 },
      { op: 'remove', path: '/nothing' },
    ])
    expect(ledger.level).toEqual(start())
    expect(() => ledger.apply([{ op: 'add', path: '/nothing', value: 1 }])).toThrow('is not known here')
  })

  it('fills in what may be left out, and says so in its entry', () => {
    const ledger = new Ledger(start())
    const { patch } = ledger.apply([{ op: 'add', path: '/markers/mk_a', value: { name: 'Bell', at: [1, 1, 0] } }])
    expect(ledger.level.markers.mk_a).toMatchObject({ kind: 'place', tags: [], locked: false })
    expect(patch.at(-1)).toMatchObject({ path: '/markers/mk_a', value: { kind: 'place' } })
    expect(readLevel(copy(ledger.level))).toEqual(ledger.level)
  })

  it('names the place of what is wrong', () => {
    const at = (ops: IncomingOp[]) => refusal(ops).message
    expect(at([{ op: 'replace', path: '/settings/cellM', value: -1 }])).toBe('settings.cellM: must be at least 0.1')
    expect(at([{ op: 'replace', path: '/waypoints/wp_a/at/0', value: 1e9 }])).toBe(
      'waypoints.wp_a.at.0: may be at most 100,000',
    )
    expect(at([{ op: 'add', path: '/waypoints/wp_a/colour', value: 1 }])).toBe(
      'waypoints.wp_a.colour: is not known here',
    )
    expect(at([{ op: 'add', path: '/waypoints/wp_n', value: { at: [0, 0, 0], colour: 1 } }])).toBe(
      'waypoints.wp_n.colour: is not known here',
    )
    expect(at([{ op: 'add', path: '/waypoints/nonsense', value: { at: [0, 0, 0] } }])).toMatch(
      /^waypoints\.nonsense: is not an id/,
    )
    expect(at([{ op: 'remove', path: '/waypoints/wp_a/at' }])).toBe('waypoints.wp_a.at: is missing')
    expect(at([{ op: 'remove', path: '/solids/sd_none' }])).toMatch(/^operation 1: there is nothing at/)
    expect(at([{ op: 'replace', path: '/ground/heights/rows/1', value: [1, 2, 3] }])).toBe(
      'ground.heights: has rows of different lengths',
    )
    expect(at([{ op: 'remove', path: '/waypoints/wp_b' }])).toMatch(
      /^(links\.ln_a\.toId|routes.*waypointId): refers to wp_b/,
    )
    expect(at([{ op: 'replace', path: '/links/ln_a/toId', value: 'wp_zz' }])).toMatch(
      /^links\.ln_a\.toId: refers to wp_zz/,
    )
    expect(at([{ op: 'replace', path: '/routes/rt_a/order', value: ['st_a', 'st_a'] }])).toMatch(
      /^routes\.rt_a\.order\.1: st_a must stand exactly once/,
    )
  })

  it('leaves format and version alone, and the document as a whole', () => {
    for (const ops of [
      [{ op: 'replace', path: '/version', value: 0 }],
      [{ op: 'replace', path: '/format', value: 'x' }],
      [{ op: 'remove', path: '/version' }],
      [{ op: 'replace', path: '', value: {} }],
      [{ op: 'copy', path: '/version', from: '/settings/seed' }],
      [{ op: 'add', path: '/__proto__/polluted', value: 1 }],
      [{ op: 'add', path: '/solids/constructor', value: {} }],
    ] as IncomingOp[][])
      expect(refusal(ops).problem).toMatch(/patch-refused|hostile-key|not-valid/)
    expect(({} as { polluted?: number }).polluted).toBeUndefined()
  })

  it.each(['01', '1e0', '+1', '-1', '9', ' 1', '1.0', ''])('takes no place in a list written as “%s”', (place) => {
    expect(refusal([{ op: 'replace', path: `/waypoints/wp_c/tags/${place}`, value: 'z' }]).problem).toMatch(/refused/)
    expect(refusal([{ op: 'remove', path: `/waypoints/wp_c/tags/${place}` }]).problem).toMatch(/refused/)
  })

  it('stops a patch that copies the document into itself before it grows', () => {
    const ops: IncomingOp[] = Array.from({ length: 26 }, (_, k) => ({
      op: 'copy',
      from: '/solids',
      path: `/solids/sd_${'x'.repeat(k + 1)}`,
    }))
    const before = process.memoryUsage().heapUsed
    expect(refusal(ops).why).toMatch(/copies more than|nothing at|must be/)
    expect((process.memoryUsage().heapUsed - before) / 2 ** 20).toBeLessThan(300)
  })

  it('looks at no more than a change reaches', () => {
    const unit = (path: string, replaces = true) => unitAt(path.split('/').slice(1), replaces).keys.join('/')
    expect(unit('/waypoints/wp_a/at/0')).toBe('waypoints/wp_a/at')
    expect(unit('/routes/rt_a/stops/st_a/pause/minS')).toBe('routes/rt_a/stops/st_a/pause/minS')
    expect(unit('/routes/rt_a/order/0', false)).toBe('routes/rt_a/order')
    expect(unit('/solids/sd_a/sizeX')).toBe('solids/sd_a')
    expect(unit('/ground/heights/rows/17')).toBe('ground/heights/rows/17')
    expect(unitAt(['settings', 'cellM'], true).rules.map((r) => r.keys.join('/'))).toEqual(['settings'])
  })
})

it('an edit is looked at in the same way, where its patch touched', () => {
  const level = start()
  const set = (at: [number, number, number]): Level => ({
    ...level,
    waypoints: { ...level.waypoints, wp_a: { ...level.waypoints.wp_a, at } },
  })
  const patch = (east: number) => [{ op: 'replace' as const, path: '/waypoints/wp_a/at', value: [east, 0, 0] }]
  expect(() => assertEdited(set([5, 0, 0]), patch(5))).not.toThrow()
  expect(() => assertEdited(set([99_999_999, 0, 0]), patch(99_999_999))).toThrow(
    'waypoints.wp_a.at.0: may be at most 100,000',
  )
  const { wp_b: _gone, ...waypoints } = level.waypoints
  const dangling = { ...level, waypoints, links: { ln_b: { ...level.links.ln_a, fromId: 'wp_b' } } }
  expect(() => assertEdited(dangling, [{ op: 'add', path: '/links/ln_b', value: dangling.links.ln_b }])).toThrow(
    'refers to wp_b',
  )
})

describe('a sheet', () => {
  const withExtent =
    (maxX: number, maxY: number, cellM = 1) =>
    () =>
      readLevel({ ...blankLevel('S'), settings: { extent: { minX: 0, minY: 0, maxX, maxY }, cellM } })
  it('has a size and shape that can be drawn and surveyed', () => {
    expect(withExtent(0.001, 100_000)).toThrow('settings.extent: is 0.001 × 100000 m; each side must have at least 1 m')
    expect(withExtent(100_000, 100_000)).toThrow(/at most 20 km/)
    expect(withExtent(5, 10_000)).toThrow(/1000 times the other/)
    expect(withExtent(20_000, 20_000)).toThrow(
      /^settings: would have 400 million reach map columns.*at least 2\.60 m wide/,
    )
    expect(withExtent(20_000, 20_000, 4)).not.toThrow()
    expect(withExtent(2_000, 2_000, 0.5)).not.toThrow()
  })
  it('is for bodies of a size that fits on one', () => {
    const profile = blankLevel('S').profiles.pf_warden
    expect(() => readLevel({ ...blankLevel('S'), profiles: { pf_a: { ...profile, radiusM: 99_999.99 } } })).toThrow(
      'profiles.pf_a.radiusM: may be at most 50',
    )
  })
})
