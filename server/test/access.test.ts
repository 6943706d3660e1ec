import { afterAll, beforeAll, expect, it } from 'vitest'
import { readConfig } from '../src/config'
import { startHarness, type Harness } from './harness'

const TOKEN = 'a-token-long-enough-to-use'
let harness: Harness
beforeAll(async () => {
  harness = await startHarness({ token: TOKEN })
})
afterAll(() => harness?.stop())

it('lets nobody in without the token once one is set', async () => {
  expect((await fetch(`${harness.url}/api/levels`)).status).toBe(401)
  expect((await fetch(`${harness.url}/api/levels`, { headers: { authorization: 'Bearer wrong' } })).status).toBe(401)
  expect((await fetch(`${harness.url}/api/levels`, { headers: { authorization: `Bearer ${TOKEN}` } })).status).toBe(200)
  const opened = await fetch(`${harness.url}/?token=${TOKEN}`, { redirect: 'manual' })
  const cookie = opened.headers.get('set-cookie')!
  expect(cookie).toContain('HttpOnly')
  expect((await fetch(`${harness.url}/api/levels`, { headers: { cookie: cookie.split(';')[0] } })).status).toBe(200)
})

it('will not listen beyond loopback without a token, nor start without a database', () => {
  const env = { TIDYTRAIL_DATABASE_URL: 'mariadb://x' }
  expect(() => readConfig({ ...env, TIDYTRAIL_HOST: '0.0.0.0' })).toThrow('TIDYTRAIL_TOKEN')
  expect(readConfig({ ...env, TIDYTRAIL_HOST: '0.0.0.0', TIDYTRAIL_TOKEN: TOKEN })).toMatchObject({
    host: '0.0.0.0',
    token: TOKEN,
  })
  expect(readConfig(env)).toMatchObject({ host: '127.0.0.1', port: 4380 })
  expect(() => readConfig({})).toThrow('TIDYTRAIL_DATABASE_URL')
  expect(() => readConfig({ ...env, TIDYTRAIL_PORT: 'x' })).toThrow('TIDYTRAIL_PORT')
})
