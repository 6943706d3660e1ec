import { createHash, timingSafeEqual } from 'node:crypto'
import type { Request, RequestHandler } from 'express'
import { HttpProblem } from './problem'

const COOKIE = 'tidytrail_token'
const digest = (text: string) => createHash('sha256').update(text).digest()

/** A cookie's value as it was set; one that cannot be decoded fits nothing. */
function decoded(value: string): string {
  try {
    return decodeURIComponent(value)
  } catch {
    return ''
  }
}

/** Did the browser come over TLS: to this server, or to the one before it? */
const behindTls = (req: Request) => req.secure || req.get('x-forwarded-proto')?.split(',')[0].trim() === 'https'

/** Lets only those in who show the token: as a bearer, or as the cookie that opening `/?token=…` once sets. */
export function requireToken(token: string): RequestHandler {
  const wanted = digest(token)
  const fits = (given: string | undefined) => given !== undefined && timingSafeEqual(digest(given), wanted)
  return (req, res, next) => {
    if (typeof req.query.token === 'string' && fits(req.query.token)) {
      res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/', secure: behindTls(req) })
      const at = new URL(req.originalUrl, 'http://here')
      at.searchParams.delete('token')
      // One slash only: two would lead to another site.
      return res.redirect(303, `/${at.pathname.replace(/^[/\\]+/, '')}${at.search}`)
    }
    const bearer = /^bearer +(.+)$/i.exec(req.headers.authorization ?? '')?.[1]
    const cookie = new RegExp(`(?:^|; *)${COOKIE}=([^;]+)`).exec(req.headers.cookie ?? '')?.[1]
    if (fits(bearer) || (cookie !== undefined && fits(decoded(cookie)))) return next()
    next(new HttpProblem(401, 'send the access token as "Authorization: Bearer …", or open /?token=… once'))
  }
}

const LOOPBACK = /^(localhost|127\.\d{1,3}\.\d{1,3}\.\d{1,3}|\[::1\])$/i

const ADDRESS = /^(\d{1,3}(\.\d{1,3}){3}|\[[0-9a-f:]+\])$/i

/** The name in a Host header, without its port, or undefined when it is none. */
function nameOf(host: string | undefined): string | undefined {
  return /^(\[[0-9a-f:]+\]|[^:/@\s]+)(?::\d{1,5})?$/i.exec(host ?? '')?.[1].toLowerCase()
}

/**
 * Serves only names that are meant for this server. Without it, a page from elsewhere whose name is made to lead here
 * would be let in as if it came from here.
 * @param names beside those of loopback; @param addresses are numbers served too? No page's name can be made one
 */
export function onlyHosts(names: readonly string[], addresses = false): RequestHandler {
  const known = new Set(names.map((n) => n.toLowerCase()))
  return (req, _res, next) => {
    const name = nameOf(req.headers.host)
    if (name !== undefined && (LOOPBACK.test(name) || known.has(name) || (addresses && ADDRESS.test(name))))
      return next()
    const said = String(req.headers.host ?? '').slice(0, 80)
    next(new HttpProblem(421, `this server is not ${said || 'without a name'}; name it in TIDYTRAIL_HOSTS if it is`))
  }
}

/** Refuses writes that a page from elsewhere makes a browser send. */
export const sameOriginWrites: RequestHandler = (req, _res, next) => {
  const { origin, host } = req.headers
  const writes = !['GET', 'HEAD', 'OPTIONS'].includes(req.method)
  if (writes && origin !== undefined && !(URL.canParse(origin) && new URL(origin).host === host)) {
    return next(new HttpProblem(403, `a page from ${origin.slice(0, 80)} may not change levels here`))
  }
  next()
}
