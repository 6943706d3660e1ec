import { LevelError } from '@tidytrail/core/level'
import { describe, expect, it } from 'vitest'
import { databaseFault, HttpProblem, lineOf, problemOf, worthSaying } from '../src/http/problem'

/** As Sequelize hands on what the driver said. */
const sequelize = (name: string, parent: object) => Object.assign(new Error('SQL: INSERT INTO …'), { name, parent })

describe('whatever was thrown', () => {
  it.each<[string, unknown, number]>([
    ['a problem', new HttpProblem(412, 'stale'), 412],
    ['a level that is not valid', new LevelError('not-valid', 'name', 'is empty'), 422],
    ['a level that is too large', new LevelError('too-large', '', 'is too large'), 413],
    [
      'a database that refuses connections',
      sequelize('SequelizeConnectionRefusedError', { code: 'ECONNREFUSED' }),
      503,
    ],
    [
      'a connection that was cut',
      sequelize('SequelizeDatabaseError', { code: 'ER_SOCKET_UNEXPECTED_CLOSE', errno: 45009 }),
      503,
    ],
    ['a pool that is used up', sequelize('SequelizeConnectionAcquireTimeoutError', {}), 503],
    ['transactions that collide', sequelize('SequelizeDatabaseError', { errno: 1213 }), 503],
    ['a table that is full', sequelize('SequelizeDatabaseError', { errno: 1114 }), 507],
    ['a disk that is full', Object.assign(new Error('ENOSPC: no space left'), { code: 'ENOSPC' }), 507],
    ['an address that cannot be decoded', new URIError('URI malformed'), 400],
    ['something with a status of its own', Object.assign(new Error('/home/x/web/dist/nothing'), { status: 404 }), 404],
    ['something nobody expected', new TypeError('Cannot read properties of undefined'), 500],
    ['nothing an error should be', 'text', 500],
  ])('%s has its status, and tells nothing of the inside', (_what, error, status) => {
    const told = problemOf(error)
    expect(told.status).toBe(status)
    expect(told.detail).toMatch(/^\S[^\n]{4,160}$/)
    expect(told.detail).not.toMatch(/SQL|home|Cannot read|ENOSPC|errno/)
  })

  it('is logged by a line, without the statement or the document it was about', () => {
    const long = sequelize('SequelizeDatabaseError', {
      errno: 1064,
      message: `You have an error near '${'x'.repeat(5_000)}'`,
    })
    expect(lineOf(long).length).toBeLessThan(300)
    expect(lineOf(long)).toContain('SequelizeDatabaseError 1064')
    expect(problemOf(new HttpProblem(404, 'none')).log).toBeUndefined()
    expect(databaseFault(new Error('other'))).toBeUndefined()
  })

  it('is written down once in a while, however often it is met', () => {
    const line = `fault ${Math.random()}`
    const now = Date.now()
    expect([worthSaying(line, now), worthSaying(line, now + 5_000), worthSaying(line, now + 11_000)]).toEqual([
      true,
      false,
      true,
    ])
  })
})
