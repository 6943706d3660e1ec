import { createHash, timingSafeEqual } from 'node:crypto'
import type { RequestHandler } from 'express'
import { HttpProblem } from './problem'

const COOKIE = 'tidytrail_token'
const digest = (text: string) => createHash('sha256').update(text).digest()

/** Lets only those in who show the token: as a bearer, or as the cookie that opening `/?token=…` once sets. */
export function requireToken(token: string): RequestHandler {
  const wanted = digest(token)
  const fits = (given: string | undefined) => given !== undefined && timingSafeEqual(digest(given), wanted)
  return (req, res, next) => {
    if (typeof req.query.token === 'string' && fits(req.query.token)) {
      res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/' })
      return res.redirect(req.path)
    }
    const bearer = /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1]
    const cookie = new RegExp(`(?:^|; )${COOKIE}=([^;]+)`).exec(req.headers.cookie ?? '')?.[1]
    if (fits(bearer) || (cookie !== undefined && fits(decodeURIComponent(cookie)))) return next()
    next(new HttpProblem(401, 'send the access token as "Authorization: Bearer …", or open /?token=… once'))
  }
}

/** Refuses writes that a page from elsewhere makes a browser send. */
export const sameOriginWrites: RequestHandler = (req, _res, next) => {
  const { origin, host } = req.headers
  const writes = !['GET', 'HEAD', 'OPTIONS'].includes(req.method)
  if (writes && origin !== undefined && new URL(origin, 'http://none').host !== host) {
    return next(new HttpProblem(403, `a page from ${origin} may not change levels here`))
  }
  next()
}
