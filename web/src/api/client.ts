import { problemSchema, type Problem } from '@tidytrail/contract'

/** The server answered with problem details. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** No answer at all: the server or the connection is down. Nothing is known about what was sent. */
export class NoConnection extends Error {
  constructor() {
    super('the server cannot be reached')
  }
}

/** Statuses that say "not now": the same call may do later. */
const PASSING = new Set([401, 404, 408, 421, 425, 429, 500, 502, 503, 504, 507])

/** Is this no answer to what was sent, but a state that will pass? A level may be put back on the shelf, too. */
export const isPassing = (error: unknown): boolean =>
  error instanceof NoConnection || (error instanceof ApiProblem && PASSING.has(error.problem.status))

export interface ApiRequest {
  method?: string
  body?: unknown
  /** Sent as they are, instead of a body. */
  bytes?: Uint8Array<ArrayBuffer>
  headers?: Record<string, string>
}

/** @throws ApiProblem when the server refuses, NoConnection when it does not answer */
export async function api(
  path: string,
  { method = 'GET', body, bytes, headers = {} }: ApiRequest = {},
): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      // As a blob, many megabytes are handed over while the page goes on.
      body: bytes ? new Blob([bytes]) : body === undefined ? undefined : JSON.stringify(body),
    })
  } catch {
    throw new NoConnection()
  }
  if (response.ok) return response
  const problem = problemSchema.safeParse(await response.json().catch(() => undefined))
  throw new ApiProblem(
    problem.success
      ? problem.data
      : {
          type: 'about:blank',
          title: response.statusText,
          status: response.status,
          detail: `the server answered ${response.status}`,
        },
  )
}
