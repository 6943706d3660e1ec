import { createHash } from 'node:crypto'
import { mkdtemp, open, rm, type FileHandle } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { isHeightGrid, isMesh } from '@tidytrail/core/ground'
import { MAX_ASSET_BYTES, type AssetHead } from '@tidytrail/contract'
import { HttpProblem } from '../http/problem'
import type { Transaction } from 'sequelize'
import type { Database } from './database'

const CHUNK = 512 * 1024

/** Imported things by content hash. They come and go in chunks, so that none is ever whole in memory. */
export class AssetStore {
  constructor(private readonly db: Database) {}

  async head(hash: string): Promise<AssetHead | undefined> {
    const row = await this.db.models.AssetRow.findByPk(hash)
    return row ? { hash, bytes: row.bytes, type: row.type } : undefined
  }

  /**
   * Makes sure that assets are here, and stay until a transaction has ended.
   * @throws HttpProblem 422 when one is not
   */
  async assertThere(hashes: readonly string[], transaction: Transaction): Promise<void> {
    if (hashes.length === 0) return
    const rows = await this.db.models.AssetRow.findAll({
      attributes: ['hash'],
      where: { hash: [...hashes] },
      transaction,
      lock: transaction.LOCK.SHARE,
    })
    const known = new Set(rows.map((r) => r.hash))
    const missing = hashes.filter((h) => !known.has(h))
    if (missing.length === 0) return
    const more = missing.length > 1 ? ` and ${missing.length - 1} more` : ''
    throw new HttpProblem(
      422,
      `the level refers to asset ${missing[0].slice(0, 12)}…${more}, which is not here; send it first`,
    )
  }

  /**
   * Takes an asset in. It is there whole or not at all. What comes is laid aside first, so that no connection to the
   * database is held by somebody who sends slowly.
   * @throws HttpProblem 413 when it is too large, 415 when it is of no known kind, 422 when it is not what its hash says
   */
  async take(hash: string, body: AsyncIterable<Uint8Array>): Promise<{ made: boolean; head: AssetHead }> {
    const known = await this.head(hash)
    if (known) {
      for await (const _ of body) void _
      return { made: false, head: known }
    }
    const folder = await mkdtemp(path.join(tmpdir(), 'tidytrail-asset-'))
    const file = await open(path.join(folder, 'bytes'), 'wx+', 0o600)
    try {
      const { total, type } = await laidAside(hash, body, file)
      return { made: true, head: await this.keep(hash, total, type, file) }
    } finally {
      await file.close()
      await rm(folder, { recursive: true, force: true })
    }
  }

  private async keep(hash: string, total: number, type: string, file: FileHandle): Promise<AssetHead> {
    const { AssetRow, AssetChunkRow } = this.db.models
    const head = { hash, bytes: total, type }
    try {
      await this.db.sequelize.transaction(async (transaction) => {
        await AssetRow.create({ ...head, createdAt: new Date() }, { transaction })
        for (let number = 0; number * CHUNK < total; number++) {
          const bytes = Buffer.alloc(Math.min(CHUNK, total - number * CHUNK))
          await file.read(bytes, 0, bytes.length, number * CHUNK)
          await AssetChunkRow.create({ hash, number, bytes }, { transaction })
        }
      })
    } catch (error) {
      // Somebody else sent the same one meanwhile: then it is here.
      const there = (error as Error).name === 'SequelizeUniqueConstraintError' ? await this.head(hash) : undefined
      if (there) return there
      throw error
    }
    return head
  }

  /** The bytes of an asset, chunk by chunk. */
  async *bytes(hash: string): AsyncGenerator<Buffer> {
    for (let number = 0; ; number++) {
      const row = await this.db.models.AssetChunkRow.findOne({ where: { hash, number } })
      if (!row) return
      yield row.bytes
    }
  }
}

/** Writes what comes to a file. @throws HttpProblem as `take` does */
async function laidAside(hash: string, body: AsyncIterable<Uint8Array>, file: FileHandle) {
  const digest = createHash('sha256')
  let total = 0
  for await (const part of body) {
    total += part.byteLength
    if (total > MAX_ASSET_BYTES)
      throw new HttpProblem(413, `an asset may have ${MAX_ASSET_BYTES / 1024 / 1024} MB at most`)
    digest.update(part)
    await file.write(part)
  }
  if (total === 0) throw new HttpProblem(422, 'the asset is empty')
  const first = Buffer.alloc(Math.min(total, 64))
  await file.read(first, 0, first.length, 0)
  const type = typeOf(first)
  const got = digest.digest('hex')
  if (got !== hash) {
    const fault = `the ${total} bytes that came have the hash ${got.slice(0, 12)}…, not ${hash.slice(0, 12)}…`
    throw new HttpProblem(422, fault)
  }
  return { total, type }
}

/** What an asset is, from its first bytes; only what the program makes or draws itself is kept. */
function typeOf(bytes: Buffer): string {
  if (isMesh(bytes)) return 'application/x-tidytrail-mesh'
  if (isHeightGrid(bytes)) return 'application/x-tidytrail-heights'
  if (bytes.length > 8 && bytes.readUInt32BE(0) === 0x89504e47) return 'image/png'
  if (bytes.length > 3 && bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'image/jpeg'
  throw new HttpProblem(415, 'an asset is a mesh, heights, or a PNG or JPEG picture')
}
