import { statfs } from 'node:fs/promises'
import { HttpProblem } from '../http/problem'

/** How long an answer of the file system is believed, milliseconds. */
const BELIEVED_MS = 500

const mb = (bytes: number) => `${Math.max(0, Math.floor(bytes / 2 ** 20))} MB`

/**
 * Room on the disk of the database. MariaDB may end when its disk is full to the last block, so that nothing is written
 * any more while less than a reserve is free; reading goes on, and writing again as soon as there is room.
 */
export class Room {
  private known: { at: number; free: number } | undefined

  /**
   * @param folder of the database's files; undefined when they are elsewhere, and its own errors have to tell
   * @param reserveBytes what has to stay free
   */
  constructor(
    private readonly folder: string | undefined,
    private readonly reserveBytes: number,
    private readonly free = async (of: string) => {
      const { bavail, bsize } = await statfs(of)
      return bavail * bsize
    },
  ) {}

  /** Makes sure that something of a size can be written. @throws HttpProblem 507 when it cannot */
  async assertRoom(bytes = 0): Promise<void> {
    if (this.folder === undefined) return
    if (!this.known || Date.now() - this.known.at > BELIEVED_MS) {
      // A file system that does not tell is no reason to save nothing; the database's own errors are left.
      const free = await this.free(this.folder).catch(() => Infinity)
      this.known = { at: Date.now(), free }
    }
    const { free } = this.known
    if (free - bytes >= this.reserveBytes) return
    throw new HttpProblem(
      507,
      `the disk of the database has ${mb(free)} left, and ${mb(this.reserveBytes + bytes)} are needed; nothing was changed. It goes on by itself once there is room`,
    )
  }
}
