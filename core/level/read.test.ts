import { describe, expect, it } from 'vitest'
import {
  assetIdsOf,
  blankLevel,
  LevelError,
  levelSchema,
  MAX_LEVEL_TEXT,
  readLevel,
  readLevelFile,
  readLevelText,
  writeLevelFile,
  writeLevelText,
} from '.'

const good = () =>
  JSON.parse(writeLevelText(blankLevel('Good'))) as Record<string, unknown> & { settings: Record<string, unknown> }
const refusal = (text: string): LevelError => {
  try {
    readLevelText(text)
  } catch (error) {
    if (error instanceof LevelError) return error
    throw error
  }
  throw new Error('was accepted')
}
const refusalOf = (change: object) => refusal(JSON.stringify({ ...good(), ...change }))

describe('reading a level file', () => {
  it('gives back what was written, and the same text again', () => {
    const level = blankLevel('A “quoted” name')
    const text = writeLevelText(level)
    expect(readLevelText(text)).toEqual(level)
    expect(writeLevelText(readLevelText(text))).toBe(text)
  })

  it('names line and column of text that is not JSON', () => {
    expect(refusal('{\n  "format": oops\n}')).toMatchObject({
      problem: 'not-json',
      at: expect.stringMatching(/^line 2, column/),
    })
    expect(refusal('')).toMatchObject({ problem: 'not-json' })
    expect(refusal('{"x": NaN}')).toMatchObject({ problem: 'not-json' })
  })

  it('refuses other formats and newer versions', () => {
    expect(refusal('[]')).toMatchObject({ problem: 'wrong-format' })
    expect(refusal('"text"')).toMatchObject({ problem: 'wrong-format' })
    expect(refusalOf({ format: 'gpx' })).toMatchObject({ problem: 'wrong-format', at: 'format' })
    const newer = refusalOf({ version: 2 })
    expect(newer).toMatchObject({ problem: 'newer-version', at: 'version' })
    expect(newer.message).toContain('update Tidy Trail')
    expect(refusalOf({ version: 1.5 })).toMatchObject({ problem: 'not-valid', at: 'version' })
  })

  it('names the place of a value that is no number, infinite or out of bounds', () => {
    expect(refusal(JSON.stringify(good()).replace('"gridM":1', '"gridM":1e999'))).toMatchObject({
      at: 'settings.gridM',
    })
    expect(refusalOf({ waypoints: { wp_a: { at: [1, 'two', 3] } } })).toMatchObject({ at: 'waypoints.wp_a.at.1' })
    expect(refusalOf({ waypoints: { nonsense: { at: [1, 2, 3] } } })).toMatchObject({ problem: 'not-valid' })
    expect(refusalOf({ spawners: { sp_a: { name: 'S', at: [0, 0, 0], profileId: null, count: 1e9 } } })).toMatchObject({
      at: 'spawners.sp_a.count',
    })
    expect(() => readLevel({ ...good(), settings: { ...good().settings, gridM: NaN } })).toThrow('settings.gridM')
  })

  it('names a reference that leads nowhere', () => {
    const route = { name: 'R', stops: { st_a: { waypointId: 'wp_gone' } }, order: ['st_a'] }
    expect(refusalOf({ routes: { rt_a: route } })).toMatchObject({
      problem: 'dangling-reference',
      at: 'routes.rt_a.stops.st_a.waypointId',
    })
    const twice = { name: 'R', stops: { st_a: { waypointId: 'wp_a' } }, order: ['st_a', 'st_a'] }
    expect(refusalOf({ waypoints: { wp_a: { at: [0, 0, 0] } }, routes: { rt_a: twice } })).toMatchObject({
      at: 'routes.rt_a.order.1',
    })
    const missing = { name: 'R', stops: { st_a: { waypointId: 'wp_a' } }, order: [] }
    expect(refusalOf({ waypoints: { wp_a: { at: [0, 0, 0] } }, routes: { rt_a: missing } })).toMatchObject({
      problem: 'dangling-reference',
    })
  })

  it('refuses keys that could reach a prototype, and leaves prototypes alone', () => {
    for (const key of ['__proto__', 'constructor', 'prototype']) {
      const text = JSON.stringify(good()).replace('"solids":{}', `"solids":{"${key}":{"polluted":true}}`)
      expect(refusal(text)).toMatchObject({ problem: 'hostile-key', at: `solids.${key}` })
    }
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined()
  })

  it('refuses what is too deep or too long', () => {
    expect(refusal(`${'['.repeat(200)}${']'.repeat(200)}`).message).toMatch(/nested deeper/)
    expect(refusal(' '.repeat(MAX_LEVEL_TEXT + 1))).toMatchObject({ problem: 'too-large' })
    const waypoints = Object.fromEntries(Array.from({ length: 200_001 }, (_, k) => [`wp_${k}`, { at: [0, 0, 0] }]))
    expect(refusalOf({ waypoints })).toMatchObject({ problem: 'too-large', at: 'waypoints' })
  })

  it('brings a document of version 0 up to date', () => {
    const { waypoints: _w, ...rest } = good()
    const old = {
      ...rest,
      version: 0,
      routes: {
        rt_a: {
          name: 'Old round',
          loop: true,
          points: [
            [1, 2, 0],
            [3, 4, 0],
            [5, 2, 0],
          ],
        },
      },
    }
    const level = readLevel(old)
    expect(level.version).toBe(1)
    expect(level.routes.rt_a).toMatchObject({ name: 'Old round', travel: 'round', order: ['st_a1', 'st_a2', 'st_a3'] })
    expect(level.waypoints[level.routes.rt_a.stops.st_a2.waypointId].at).toEqual([3, 4, 0])
  })

  it('takes a level without any profile, route or spawner', () => {
    expect(readLevel({ ...good(), profiles: {} }).profiles).toEqual({})
  })
})

it('changes few lines of the file for a small change', () => {
  const level = blankLevel('Diff')
  const moved = {
    ...level,
    waypoints: { wp_a: { name: '', at: [1, 2, 0] as [number, number, number], liftM: 0, markerId: null, tags: [] } },
  }
  const before = new Set(writeLevelText(level).split('\n'))
  const added = writeLevelText(moved)
    .split('\n')
    .filter((l) => !before.has(l))
  expect(added.length).toBeLessThan(10)
  expect(added.join('\n')).toContain('[1, 2, 0]')
})

describe('a level file with its assets inside', () => {
  const hash = 'ab'.repeat(32)
  const level = levelSchema.parse({
    ...blankLevel('Imported'),
    meshes: { ms_a: { name: 'Deck', assetId: hash, at: [0, 0, 0] } },
  })
  it('gives the same level and bytes when read back', () => {
    const bytes = Uint8Array.from({ length: 100_000 }, (_, k) => (k * 31) % 256)
    const file = readLevelFile(writeLevelFile(level, new Map([[hash, bytes]])))
    expect(file.level).toEqual(level)
    expect(file.assets.get(hash)).toEqual(bytes)
    expect(assetIdsOf(file.level)).toEqual([hash])
  })
  it('names an asset that is damaged', () => {
    const text = writeLevelFile(level, new Map([[hash, new Uint8Array(3)]])).replace('AAAA', '!!!')
    expect(() => readLevelFile(text)).toThrow('assets.abababababababababab: is not base64 text')
  })
})
