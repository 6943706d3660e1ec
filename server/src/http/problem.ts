import { PROBLEM_TITLES, PROBLEM_TYPE, type Problem } from '@tidytrail/contract'
import { LevelError } from '@tidytrail/core/level'
import type { ErrorRequestHandler, Response } from 'express'
import type { Logger } from 'pino'

export type ProblemMore = Pick<Problem, 'at' | 'revision' | 'changes'>

/** An error to be answered with, as problem details (RFC 9457). */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly more: ProblemMore = {},
  ) {
    super(detail)
  }
}

export function sendProblem(res: Response, status: number, detail: string, more: ProblemMore = {}): void {
  const problem: Problem = { type: 'about:blank', title: PROBLEM_TITLES[status] ?? 'Error', status, detail, ...more }
  if (status === 401) res.set('www-authenticate', 'Bearer realm="Tidy Trail"')
  if ([429, 503, 507].includes(status) && !res.get('retry-after')) res.set('retry-after', '2')
  res.status(status).type(PROBLEM_TYPE).send(JSON.stringify(problem))
}

interface Told {
  readonly status: number
  readonly detail: string
  readonly more: ProblemMore
  /** One line for the log, where it is more than an ordinary refusal. */
  readonly log?: string
}

/** MariaDB's numbers for a disk or table space without room. */
const NO_ROOM = new Set([1021, 1026, 1114, 1533, 3])
/** Numbers and names of a connection that is gone, was never there, or was cut. */
const NO_CONNECTION =
  /^(ECONN|EPIPE|ENOENT|ETIMEDOUT|ER_(SOCKET|CONNECTION|CMD_CONNECTION|SERVER_SHUTDOWN|GET_CONNECTION|LOST|NORMAL_SHUTDOWN))/

interface DatabaseFault {
  name?: string
  errno?: number
  code?: string
  fatal?: boolean
  message?: string
  parent?: DatabaseFault
  original?: DatabaseFault
}

/** Is the database full, out of reach, or neither? */
export function databaseFault(error: unknown): 'no-room' | 'no-connection' | 'collision' | undefined {
  const fault = error as DatabaseFault | undefined
  const inner = fault?.parent ?? fault?.original ?? fault
  const errno = inner?.errno
  if (errno !== undefined && NO_ROOM.has(errno)) return 'no-room'
  if (inner?.code === 'ENOSPC' || /No space left on device|errno: 28|Disk full/i.test(inner?.message ?? ''))
    return 'no-room'
  if (errno === 1213 || errno === 1205 || errno === 1020) return 'collision'
  if (/^Sequelize(Connection|HostNot|AccessDenied)/.test(fault?.name ?? '')) return 'no-connection'
  if (fault?.name?.startsWith('Sequelize') && inner?.fatal) return 'no-connection'
  if (NO_CONNECTION.test(inner?.code ?? '')) return 'no-connection'
  if (
    /after the connection manager was closed|Can't add new command when connection is closed/i.test(
      fault?.message ?? '',
    )
  )
    return 'no-connection'
  return undefined
}

/** The first line of an error, short: never the statement or the document it was about. */
export function lineOf(error: unknown): string {
  const fault = error as DatabaseFault
  const inner = fault?.parent ?? fault
  const text = String(inner?.message ?? error).split('\n')[0]
  return `${fault?.name ?? 'Error'}${inner?.errno ? ` ${inner.errno}` : ''}: ${text.slice(0, 200)}`
}

/** Whatever was thrown as what is told of it; of what nobody expected the inside is not told. */
export function problemOf(error: unknown): Told {
  const plain = (status: number, detail: string, more: ProblemMore = {}): Told => ({ status, detail, more })
  if (error instanceof HttpProblem) return plain(error.status, error.message, error.more)
  if (error instanceof LevelError)
    return plain(error.problem === 'too-large' ? 413 : 422, error.message, error.at ? { at: error.at } : {})
  switch (databaseFault(error)) {
    case 'no-room':
      return {
        ...plain(507, 'a disk of the server is full; nothing was changed. It goes on by itself once there is room'),
        log: `a disk of the server is full (${lineOf(error)})`,
      }
    case 'no-connection':
      return {
        ...plain(503, 'the database cannot be reached just now; nothing was changed'),
        log: `the database is out of reach (${lineOf(error)})`,
      }
    case 'collision':
      return plain(503, 'too many are changing this at once; nothing was changed, try again')
  }
  const { type, status, message } = error as { type?: string; status?: number; message?: string }
  if (type === 'entity.too.large') return plain(413, 'the request is too large')
  // What a library says of a request may hold paths of this machine; only its status is passed on.
  if (typeof status === 'number' && status >= 400 && status < 500)
    return plain(status, status === 404 ? 'there is nothing here' : 'the request cannot be read')
  if (error instanceof URIError) return plain(400, 'the address cannot be read')
  return {
    ...plain(500, 'the server met a fault it did not expect; its log says more'),
    log: `request failed: ${lineOf(error)}\n${((error as Error)?.stack ?? message ?? '').split('\n').slice(1, 6).join('\n')}`,
  }
}

/** Time in which the same fault is not written down again, milliseconds. */
const QUIET_MS = 10_000
const lastSaid = new Map<string, number>()

/** Should a line be written down? One that has just been is not, however often its fault is met. */
export function worthSaying(line: string, now = Date.now()): boolean {
  if (now - (lastSaid.get(line) ?? -Infinity) < QUIET_MS) return false
  if (lastSaid.size > 100) lastSaid.clear()
  lastSaid.set(line, now)
  return true
}

/** Answers whatever was thrown with problem details. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error, req, res, _next) => {
    const told = problemOf(error)
    if (told.log && worthSaying(told.log)) log.error(told.log)
    // An answer under way cannot be taken back; cutting it off tells the other side that it is not whole.
    if (res.headersSent) return void res.destroy()
    // A body that nobody reads to its end would hold the connection.
    if (!req.complete) res.set('connection', 'close')
    sendProblem(res, told.status, told.detail, told.more)
  }
}
