import type { RequestHandler } from 'express'
import { HttpProblem } from './problem'

/** Answers every other method with 405 and says which there are. */
export const only =
  (...methods: string[]): RequestHandler =>
  (req, res) => {
    const allowed = methods.includes('GET') ? [...methods, 'HEAD'] : methods
    res.set('allow', allowed.join(', '))
    throw new HttpProblem(405, `${req.method} is not for this address; ${allowed.join(', ')} are`)
  }
