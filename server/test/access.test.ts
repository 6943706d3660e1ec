import { request } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readConfig } from '../src/config'
import { startHarness, type Harness } from './harness'

const TOKEN = 'a-token-long-enough-to-use'
let guarded: Harness
let open: Harness
beforeAll(async () => {
  guarded = await startHarness({ token: TOKEN })
  open = await startHarness({ hosts: ['maps.example'] })
})
afterAll(async () => {
  await guarded?.stop()
  await open?.stop()
})

/** A request with headers that `fetch` would not let through. */
const raw = (base: string, path: string, headers: Record<string, string>, method = 'GET') =>
  new Promise<{ status: number; headers: Record<string, string | string[] | undefined>; text: string }>(
    (resolve, reject) => {
      const { hostname, port } = new URL(base)
      const req = request({ hostname, port, path, method, headers }, (res) => {
        let text = ''
        res.on('data', (part) => (text += part))
        res.on('end', () => resolve({ status: res.statusCode!, headers: res.headers, text }))
      })
      req.on('error', reject)
      req.end()
    },
  )

describe('with a token', () => {
  const get = (headers: Record<string, string>, path = '/api/levels') => raw(guarded.url, path, headers)
  it('nobody is let in without it, and is told how to show it', async () => {
    const refused = await get({})
    expect(refused.status).toBe(401)
    expect(refused.headers['www-authenticate']).toMatch(/^Bearer/)
    expect(JSON.parse(refused.text)).toMatchObject({ status: 401 })
    expect((await get({ authorization: 'Bearer wrong' })).status).toBe(401)
    for (const word of ['Bearer', 'bearer', 'BEARER'])
      expect((await get({ authorization: `${word} ${TOKEN}` })).status).toBe(200)
  })

  it('opening it once sets a cookie, which is Secure behind TLS, and keeps the rest of the address', async () => {
    const opened = await get({}, `/?token=${TOKEN}&stage=cast`)
    expect(opened.status).toBe(303)
    expect(opened.headers.location).toBe('/?stage=cast')
    const [cookie] = opened.headers['set-cookie'] as string[]
    expect(cookie).toMatch(/HttpOnly/)
    expect(cookie).not.toMatch(/Secure/)
    expect((await get({ cookie: cookie.split(';')[0] })).status).toBe(200)
    const tls = await get({ 'x-forwarded-proto': 'https' }, `/?token=${TOKEN}`)
    expect((tls.headers['set-cookie'] as string[])[0]).toMatch(/Secure/)
  })

  it('a redirect never leads to another site', async () => {
    for (const path of [
      `//elsewhere.example/?token=${TOKEN}`,
      `/\\elsewhere.example?token=${TOKEN}`,
      `///elsewhere.example/x?token=${TOKEN}`,
    ]) {
      const { headers } = await get({}, path)
      expect(new URL(String(headers.location ?? '/'), 'http://here.example').host).toBe('here.example')
    }
  })

  it('a cookie that cannot be decoded fits nothing, and breaks nothing', async () => {
    expect((await get({ cookie: 'tidytrail_token=%' })).status).toBe(401)
    expect((await get({ cookie: `tidytrail_token=%; tidytrail_token=${TOKEN}` })).status).toBe(401)
  })

  it('numbers are served as well as names: no page can be made to lead to one', async () => {
    expect((await get({ host: '192.168.0.7:4380', authorization: `Bearer ${TOKEN}` })).status).toBe(200)
    expect((await get({ host: 'rebound.example', authorization: `Bearer ${TOKEN}` })).status).toBe(421)
  })
})

describe('without a token', () => {
  const status = async (host: string) => (await raw(open.url, '/api/levels', { host })).status
  it('only names of this machine and those configured are served', async () => {
    for (const host of [
      '127.0.0.1',
      '127.0.0.1:4380',
      'localhost:99',
      'LOCALHOST',
      '[::1]:4380',
      'maps.example',
      'Maps.Example:80',
    ])
      expect(await status(host), host).toBe(200)
    for (const host of [
      'rebound.example',
      'localhost.rebound.example',
      '127.0.0.1.rebound.example',
      '192.168.0.7',
      'x@127.0.0.1',
      '127.0.0.1:1:2',
    ])
      expect([400, 421], host).toContain(await status(host))
  })

  it('writes from pages elsewhere are refused, whatever their origin looks like', async () => {
    const { host } = new URL(open.url)
    for (const origin of [
      'http://elsewhere.example',
      'null',
      'http://[',
      '',
      'http://localhost:1',
      `http://${host}.elsewhere.example`,
    ]) {
      const { status: s, text } = await raw(
        open.url,
        '/api/levels',
        { host, origin, 'content-type': 'application/json' },
        'POST',
      )
      expect(s, origin).toBe(403)
      expect(JSON.parse(text)).toMatchObject({ status: 403 })
    }
  })
})

it('will not listen beyond loopback without a token, nor start without a database', () => {
  const env = { TIDYTRAIL_DATABASE_URL: 'mariadb://x' }
  expect(() => readConfig({ ...env, TIDYTRAIL_HOST: '0.0.0.0' })).toThrow('TIDYTRAIL_TOKEN')
  expect(readConfig({ ...env, TIDYTRAIL_HOST: '0.0.0.0', TIDYTRAIL_TOKEN: TOKEN })).toMatchObject({
    host: '0.0.0.0',
    token: TOKEN,
  })
  expect(readConfig({ ...env, TIDYTRAIL_HOSTS: 'maps.example, b.example' }).hosts).toEqual([
    'maps.example',
    'b.example',
    '127.0.0.1',
  ])
  expect(readConfig(env)).toMatchObject({
    host: '127.0.0.1',
    port: 4380,
    keeping: { deletedDays: 30, historyDays: 180 },
  })
  expect(() => readConfig({})).toThrow('TIDYTRAIL_DATABASE_URL')
  expect(() => readConfig({ ...env, TIDYTRAIL_PORT: 'x' })).toThrow('TIDYTRAIL_PORT')
  expect(() => readConfig({ ...env, TIDYTRAIL_KEEP_DELETED_DAYS: 'soon' })).toThrow('TIDYTRAIL_KEEP_DELETED_DAYS')
})
