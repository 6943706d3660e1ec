/**
 * `npm run attack -- disk`: a disk of its own for the database, filled up while somebody saves. It needs the right to
 * mount one.
 */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { blankLevel } from '@tidytrail/core/level'
import { pause } from '../../scripts/processes.mjs'
import { call, post, sendPatch, serve } from './served'

const DISK_MB = 420
const RESERVE_MB = 64

const mount = (folder: string) =>
  spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK_MB}m`, 'tmpfs', folder]).status === 0

export async function runDisk(): Promise<boolean> {
  const folder = mkdtempSync(path.join(tmpdir(), 'tidytrail-disk-'))
  if (!mount(folder)) {
    process.stdout.write('a disk cannot be mounted here, so none was filled\n')
    rmSync(folder, { recursive: true, force: true })
    return true
  }
  const faults: string[] = []
  const say = (ok: boolean, what: string) => {
    if (!ok) faults.push(what)
  }
  try {
    const served = await serve({ TIDYTRAIL_RESERVE_MB: String(RESERVE_MB) }, path.join(folder, 'data'))
    try {
      const id = await post(served.url, blankLevel('Filled'))
      const save = (base: number, value: string) =>
        sendPatch<{ detail?: string; revision: number }>(served.url, id, base, randomUUID(), [
          { op: 'replace', path: '/note', value },
        ])
      say((await save(1, 'before')).status === 200, 'a save before was not taken')
      const { bavail, bsize } = statfsSync(folder)
      const ballast = path.join(folder, 'ballast')
      writeFileSync(ballast, Buffer.alloc(bavail * bsize - (RESERVE_MB / 2) * 2 ** 20, 1))
      await pause(700)
      const refused = await save(2, 'full')
      say(refused.status === 507, `a save on a full disk was answered with ${refused.status}`)
      process.stdout.write(`  ${refused.body.detail}\n`)
      const read = await call<{ note: string }>(served.url, 'GET', `/api/levels/${id}`)
      say(read.status === 200 && read.body.note === 'before', 'reading did not go on')
      say((await call(served.url, 'GET', '/api/levels')).status === 200, 'the shelf did not go on')
      say((await call(served.url, 'GET', '/api/health')).status === 200, 'it is not well')
      rmSync(ballast)
      await pause(700)
      say((await save(2, 'after')).status === 200, 'a save with room again was not taken')
    } finally {
      await served.stop()
    }
  } finally {
    spawnSync('umount', [folder])
    rmSync(folder, { recursive: true, force: true })
  }
  process.stdout.write(`a disk of ${DISK_MB} MB filled while somebody saves: ${faults.length} faults\n`)
  for (const fault of faults) process.stdout.write(`  ${fault}\n`)
  return faults.length === 0
}
