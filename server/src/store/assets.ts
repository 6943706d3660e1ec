import { createHash } from 'node:crypto'
import { isHeightGrid, isMesh } from '@tidytrail/core/ground'
import { MAX_ASSET_BYTES, type AssetHead } from '@tidytrail/contract'
import { HttpProblem } from '../http/problem'
import type { Database } from './database'

const CHUNK = 512 * 1024

/** Imported things by content hash. They come and go in chunks, so that none is ever whole in memory. */
export class AssetStore {
  constructor(private readonly db: Database) {}

  async head(hash: string): Promise<AssetHead | undefined> {
    const row = await this.db.models.AssetRow.findByPk(hash)
    return row ? { hash, bytes: row.bytes, type: row.type } : undefined
  }

  /** Which of these are not here. */
  async missing(hashes: readonly string[]): Promise<string[]> {
    if (hashes.length === 0) return []
    const rows = await this.db.models.AssetRow.findAll({ attributes: ['hash'], where: { hash: [...hashes] } })
    const known = new Set(rows.map((r) => r.hash))
    return hashes.filter((h) => !known.has(h))
  }

  /**
   * Takes an asset in. It is there whole or not at all.
   * @throws HttpProblem 413 when it is too large, 415 when it is of no known kind, 422 when it is not what its hash says
   */
  async take(hash: string, body: AsyncIterable<Uint8Array>): Promise<{ made: boolean; head: AssetHead }> {
    const known = await this.head(hash)
    if (known) {
      for await (const _ of body) void _
      return { made: false, head: known }
    }
    const { AssetRow, AssetChunkRow } = this.db.models
    const digest = createHash('sha256')
    let type = ''
    let total = 0
    let number = 0
    let pending: Uint8Array[] = []
    let pendingBytes = 0
    const head = await this.db.sequelize
      .transaction(async (transaction) => {
        await AssetRow.create({ hash, bytes: 0, type: '', createdAt: new Date() }, { transaction })
        const flush = async () => {
          if (pendingBytes === 0) return
          const bytes = Buffer.concat(pending)
          if (number === 0) type = typeOf(bytes)
          await AssetChunkRow.create({ hash, number: number++, bytes }, { transaction })
          pending = []
          pendingBytes = 0
        }
        for await (const part of body) {
          total += part.byteLength
          if (total > MAX_ASSET_BYTES)
            throw new HttpProblem(413, `an asset may have ${MAX_ASSET_BYTES / 1024 / 1024} MB at most`)
          digest.update(part)
          pending.push(part)
          pendingBytes += part.byteLength
          if (pendingBytes >= CHUNK) await flush()
        }
        await flush()
        if (total === 0) throw new HttpProblem(422, 'the asset is empty')
        const got = digest.digest('hex')
        if (got !== hash) {
          const fault = `the ${total} bytes that came have the hash ${got.slice(0, 12)}…, not ${hash.slice(0, 12)}…`
          throw new HttpProblem(422, fault)
        }
        await AssetRow.update({ bytes: total, type }, { where: { hash }, transaction })
        return { hash, bytes: total, type }
      })
      .catch(async (error: Error) => {
        // Somebody else sent the same one meanwhile: then it is here.
        const there = error.name === 'SequelizeUniqueConstraintError' ? await this.head(hash) : undefined
        if (there) return there
        throw error
      })
    return { made: true, head }
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

/** What an asset is, from its first bytes; only what the program makes or draws itself is kept. */
function typeOf(bytes: Buffer): string {
  if (isMesh(bytes)) return 'application/x-tidytrail-mesh'
  if (isHeightGrid(bytes)) return 'application/x-tidytrail-heights'
  if (bytes.length > 8 && bytes.readUInt32BE(0) === 0x89504e47) return 'image/png'
  if (bytes.length > 3 && bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'image/jpeg'
  throw new HttpProblem(415, 'an asset is a mesh, heights, or a PNG or JPEG picture')
}
