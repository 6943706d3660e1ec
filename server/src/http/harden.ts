import type { Server } from 'node:http'
import { PROBLEM_TITLES, PROBLEM_TYPE, type Problem } from '@tidytrail/contract'

/** How long the head of a request, and all of one, may take, milliseconds. Bodies are held to a pace besides. */
const HEAD_MS = 20_000
const WHOLE_MS = 310_000
const MOST_CONNECTIONS = 1_000
/** An idle connection is kept longer than those who hold one usually keep it, so that they close it and not this side. */
const IDLE_MS = 75_000

/** What the parser calls a request it gave up, and how that is answered. */
const FAULTS: Record<string, [status: number, detail: string]> = {
  HPE_HEADER_OVERFLOW: [431, 'the head of the request is too large'],
  ERR_HTTP_REQUEST_TIMEOUT: [408, 'the request did not come to its end'],
}

/** Bounds what a connection may take, and answers what is no HTTP plainly. */
export function harden(server: Server): void {
  server.headersTimeout = HEAD_MS
  server.requestTimeout = WHOLE_MS
  server.keepAliveTimeout = IDLE_MS
  server.maxConnections = MOST_CONNECTIONS
  server.on('clientError', (error: NodeJS.ErrnoException, socket) => {
    if (error.code === 'ECONNRESET' || !socket.writable) return void socket.destroy()
    const [status, detail] = FAULTS[error.code ?? ''] ?? [400, 'this is no request of HTTP/1.1']
    const problem: Problem = { type: 'about:blank', title: PROBLEM_TITLES[status] ?? 'Error', status, detail }
    const body = JSON.stringify(problem)
    socket.end(
      `HTTP/1.1 ${status} ${problem.title}\r\ncontent-type: ${PROBLEM_TYPE}\r\ncontent-length: ${Buffer.byteLength(body)}\r\nconnection: close\r\n\r\n${body}`,
    )
  })
}
