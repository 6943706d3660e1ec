import { PROBLEM_TITLES, PROBLEM_TYPE, type Problem } from '@tidytrail/contract'
import { LevelError } from '@tidytrail/core/level'
import type { ErrorRequestHandler, Response } from 'express'
import type { Logger } from 'pino'

/** An error to be answered with, as problem details (RFC 9457). */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly more: { at?: string; revision?: number } = {},
  ) {
    super(detail)
  }
}

export function sendProblem(res: Response, status: number, detail: string, more: HttpProblem['more'] = {}): void {
  const problem: Problem = { type: 'about:blank', title: PROBLEM_TITLES[status] ?? 'Error', status, detail, ...more }
  res.status(status).type(PROBLEM_TYPE).send(JSON.stringify(problem))
}

/** Turns whatever was thrown into problem details; what nobody expected is logged and told without its inside. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error, _req, res, _next) => {
    if (error instanceof HttpProblem) return sendProblem(res, error.status, error.message, error.more)
    if (error instanceof LevelError) {
      return sendProblem(
        res,
        error.problem === 'too-large' ? 413 : 422,
        error.message,
        error.at ? { at: error.at } : {},
      )
    }
    switch (error?.type) {
      case 'entity.too.large':
        return sendProblem(
          res,
          413,
          `the request is larger than the ${Math.round(error.limit / 1024 / 1024)} MB this server takes`,
        )
      case 'entity.parse.failed':
        return sendProblem(res, 400, `the request is not JSON: ${error.message}`)
      case 'encoding.unsupported':
      case 'charset.unsupported':
        return sendProblem(res, 415, error.message)
    }
    if (typeof error?.name === 'string' && error.name.startsWith('SequelizeConnection')) {
      log.error({ err: error }, 'database out of reach')
      return sendProblem(res, 503, 'the database cannot be reached just now; nothing was changed')
    }
    if (typeof error?.status === 'number' && error.status < 500) return sendProblem(res, error.status, error.message)
    log.error({ err: error }, 'request failed')
    return sendProblem(res, 500, 'the server met a fault it did not expect; its log says more')
  }
}
