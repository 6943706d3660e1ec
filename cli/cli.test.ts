import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { checkReportSchema, rehearseReportSchema, trialReportSchema } from '@tidytrail/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'

const bin = path.resolve(import.meta.dirname, 'bin/tidytrail.mjs')
const run = (...args: string[]) => spawnSync(process.execPath, [bin, ...args], { encoding: 'utf8' })
let folder: string
const file = (name: string) => path.join(folder, name)

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-cli-'))
  execFileSync(process.execPath, [bin, 'demo', '--out', folder])
}, 60_000)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

it('lists the demo levels, and writes those of the shelf', () => {
  expect(run('demo').stdout).toMatch(/lanternquay +Lanternquay by night/)
  expect(readFileSync(file('lanternquay.tidytrail.json'), 'utf8')).toContain('"format": "tidytrail-level"')
  expect(run('demo', 'atlantis')).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('no demo level "atlantis"'),
  })
})

it('check ends with 0 without blockers and 1 with, and prints what its schema says', () => {
  expect(run('check', file('lanternquay.tidytrail.json'))).toMatchObject({
    status: 0,
    stdout: 'Lanternquay by night: 0 blockers, 0 other\n',
  })
  const rough = run('check', file('rough-draft.tidytrail.json'), '--format', 'json')
  expect(rough.status).toBe(1)
  const report = checkReportSchema.parse(JSON.parse(rough.stdout))
  expect(report.level).toBe('Rough draft')
  expect(report.findings[0]).toMatchObject({ severity: 'blocker', ways: [{ label: expect.any(String) }] })
})

it('lanes are written in open formats, with what is not in them said beside', () => {
  const drive = run('lanes', file('kettle-cross.tidytrail.json'))
  expect(drive).toMatchObject({ status: 0, stderr: expect.stringContaining('without signal plans') })
  expect(drive.stdout).toMatch(/^<\?xml .*\n<OpenDRIVE>/)
  const out = file('lanes.geojson')
  expect(run('lanes', file('kettle-cross.tidytrail.json'), '--as', 'geojson', '--out', out)).toMatchObject({ status: 0, stdout: '' }) // prettier-ignore
  const { features } = JSON.parse(readFileSync(out, 'utf8')) as { features: { properties: { kind: string } }[] }
  expect(new Set(features.map((f) => f.properties.kind))).toEqual(new Set(['lane', 'join', 'junction']))
  expect(run('lanes', file('kettle-cross.tidytrail.json'), '--as', 'shapes').status).toBe(2)
  expect(run('lanes', file('kettle-cross.tidytrail.json'), '--out', folder)).toMatchObject({ status: 2, stderr: expect.stringContaining('cannot write') }) // prettier-ignore
})

it('rehearse ends with 0 when all follow and 1 when not, the same for the same seed', () => {
  const asked = ['rehearse', file('lanternquay.tidytrail.json'), '--format', 'json', '--seed', '3', '--seconds', '90']
  const [once, again] = [run(...asked), run(...asked)]
  expect(once.status).toBe(0)
  expect(once.stdout).toBe(again.stdout)
  expect(rehearseReportSchema.parse(JSON.parse(once.stdout))).toMatchObject({
    seed: 3,
    seconds: 90,
    level: 'Lanternquay by night',
  })
  expect(run('rehearse', file('rough-draft.tidytrail.json'), '--seconds', '30').status).toBe(1)
})

it('ends with 2 and one line for what cannot be read', () => {
  writeFileSync(file('broken.json'), '{"format": "tidytrail-level",')
  writeFileSync(file('newer.json'), '{"format": "tidytrail-level", "version": 7}')
  const thread = '{"minX": 0, "minY": 0, "maxX": 0.001, "maxY": 100000}'
  writeFileSync(
    file('thread.json'),
    `{"format": "tidytrail-level", "version": 1, "name": "T", "settings": {"extent": ${thread}}}`,
  )
  for (const [args, why] of [
    [['check', file('thread.json')], 'settings.extent: is 0.001 × 100000 m; each side must have at least 1 m'],
    [['check', file('missing.json')], 'there is no such file'],
    [['check', folder], 'this is a folder'],
    [['check', file('broken.json')], 'this is not JSON'],
    [['rehearse', file('newer.json')], 'is 7, but this program reads up to 1'],
    [['rehearse', file('lanternquay.tidytrail.json'), '--seed', 'x'], 'whole number'],
    [['frobnicate'], 'unknown command'],
  ] as const) {
    const { status, stderr, stdout } = run(...args)
    expect([status, stdout]).toEqual([2, ''])
    expect(stderr).toContain(why)
  }
})

it('trial ends with 1 when a statement does not hold, says when, and counts over many seeds', () => {
  const file1 = file('lanternquay.tidytrail.json')
  const once = run('trial', file1)
  expect(once.status).toBe(1)
  expect(once.stdout).toMatch(/FAILS +Past the warehouses has a window of 6 s at least every 36 s/)
  expect(once.stdout).toMatch(/3 of 4 trials hold, 1 rehearsal\n$/)
  const many = run('trial', file1, '--format', 'json', '--seeds', '2', '--seconds', '60')
  const report = trialReportSchema.parse(JSON.parse(many.stdout))
  expect(report).toMatchObject({ seeds: [7, 8], seconds: 60 })
  expect(report.trials.find((t) => t.id === 'tl_stuck')).toMatchObject({
    holds: true,
    held: 2,
    told: 2,
    failedSeeds: [],
  })
  const level = JSON.parse(readFileSync(file1, 'utf8'))
  writeFileSync(file('no-trials.json'), JSON.stringify({ ...level, trials: {} }))
  expect(run('trial', file('no-trials.json'))).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('the level has no trials'),
  })
  expect(run('trial', file1, '--seeds', '0').status).toBe(2)
})
