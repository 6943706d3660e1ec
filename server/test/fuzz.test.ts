/**
 * The HTTP interface under fire: whatever is asked, the answer is one the interface describes, as problem details when it
 * is a refusal, and the server goes on. A share of it runs with the other tests; `npm run fuzz` runs more.
 */
import { request } from 'node:http'
import { openApiDocument } from '@tidytrail/contract'
import { blankLevel } from '@tidytrail/core/level'
import { mutatedJson, mutatedText, type Chance } from '@tidytrail/core/testing'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { caller, startHarness, type Harness } from './harness'

const RUNS = Number(process.env.FUZZ_RUNS ?? 500)
const SEED = Number(process.env.FUZZ_SEED ?? 20260118)

let harness: Harness
beforeAll(async () => {
  harness = await startHarness()
})
afterAll(() => harness?.stop())

const chance = (seed: number): Chance => {
  const generator = xoroshiro128plus(seed)
  return () => (generator.next() >>> 0) / 0x100000000
}

interface Asked {
  method: string
  path: string
  headers: Record<string, string>
  body: string | undefined
}

const pick = <T>(random: Chance, list: readonly T[]): T => list[Math.floor(random() * list.length)]

function ask(random: Chance, ids: readonly string[]): Asked {
  const id = pick(random, [
    ...ids,
    'lv_nothere',
    'lv_',
    '..',
    '%2e%2e',
    '%',
    '',
    'LV_X',
    'lv_' + 'a'.repeat(200),
    '%00',
    '"',
  ])
  const path = pick(random, [
    `/api/levels/${id}`,
    `/api/levels/${id}`,
    `/api/levels/${id}`,
    `/api/levels/${id}/revisions?since=${pick(random, ['0', '1', '-1', 'x', '1e9', '', '%', '99999999999999'])}`,
    `/api/levels/${id}/restore`,
    '/api/levels',
    `/api/assets/${pick(random, ['0'.repeat(64), 'f'.repeat(64), id])}`,
    '/api/health',
    '/api/storage',
    '/api/openapi.json',
    `/api/${id}`,
    `/${id}`,
    '//api/levels',
    `/api/levels?${'a=1&'.repeat(Math.floor(random() * 50))}`,
  ])
  const method = pick(random, ['GET', 'POST', 'PUT', 'PATCH', 'PATCH', 'PATCH', 'DELETE', 'HEAD', 'OPTIONS'])
  const headers: Record<string, string> = {}
  const maybe = (name: string, values: readonly string[], share = 0.8) => {
    if (random() < share) headers[name] = pick(random, values)
  }
  const types = [
    'application/json',
    'application/json-patch+json',
    'application/octet-stream',
    'text/plain',
    'x',
    'application/json; charset=utf-7',
  ]
  maybe('content-type', random() < 0.8 ? [method === 'PATCH' ? types[1] : types[0]] : types, 0.95)
  maybe('if-match', ['"1"', '"2"', '"999"', '*', 'W/"1"', '1', '""', '"1", "2"'], method === 'PATCH' ? 0.9 : 0.2)
  maybe('x-edit-id', ['batch-0001', 'x', 'a b c d e f g', `b-${Math.floor(random() * 1e9)}`], 0.3)
  maybe('origin', ['http://[', 'null', 'http://elsewhere.example', harness.url, 'x'], 0.2)
  maybe('cookie', ['tidytrail_token=%', 'a=b; ; ;', '='], 0.1)
  maybe('accept-encoding', ['gzip', '*;q=0', 'x'], 0.1)
  maybe('content-encoding', ['gzip', 'identity', 'br'], 0.05)
  maybe('if-none-match', ['"1"', '*', 'W/"1"'], 0.1)
  const ops = [
    { op: 'replace', path: '/note', value: 'x' },
    { op: 'add', path: '/markers/mk_a', value: { name: 'A', at: [1, 1, 0] } },
    { op: 'copy', path: '/markers/mk_b', from: '/markers/mk_a' },
    { op: 'test', path: '/name', value: 'Fuzzed' },
    { op: 'remove', path: '/markers/mk_a' },
  ]
  const document =
    method === 'PATCH'
      ? ops
      : pick(random, [{ document: blankLevel('Fuzzed') }, { blank: { name: 'B' } }, { copyOf: id }])
  let body =
    random() < 0.75 ? JSON.stringify(mutatedJson(document, random)) : mutatedText(JSON.stringify(document), random)
  if (random() < 0.1) body = JSON.stringify(document)
  return { method, path, headers, body: ['GET', 'HEAD'].includes(method) && random() < 0.9 ? undefined : body }
}

/** Sends it; undefined when it cannot even be sent, or the connection was closed in return. */
function send({ method, path, headers, body }: Asked) {
  return new Promise<{ status: number; type: string; text: string } | undefined>((resolve) => {
    const { hostname, port } = new URL(harness.url)
    try {
      const length: Record<string, string> =
        body === undefined ? {} : { 'content-length': String(Buffer.byteLength(body)) }
      const req = request({ hostname, port, path, method, headers: { ...length, ...headers } }, (res) => {
        let text = ''
        res.on('data', (part) => (text += part))
        res.on('end', () => resolve({ status: res.statusCode!, type: res.headers['content-type'] ?? '', text }))
      })
      req.on('error', () => resolve(undefined))
      req.end(body)
    } catch {
      resolve(undefined)
    }
  })
}

it(`answers whatever it is asked as it says it does (seed ${SEED}, ${RUNS} requests)`, async () => {
  const random = chance(SEED)
  const call = caller(() => harness)
  const ids: string[] = []
  for (const name of ['One', 'Two']) ids.push((await call('POST', '/api/levels', { blank: { name } })).body.id)
  const { paths } = openApiDocument('0')
  const described = new Set(
    Object.values(paths).flatMap((p) =>
      Object.values(p).flatMap((o) => Object.keys((o as { responses: object }).responses).map(Number)),
    ),
  )
  const seen = new Map<number, number>()
  for (let k = 0; k < RUNS; k++) {
    const asked = ask(random, ids)
    const answer = await send(asked)
    if (!answer) continue
    const { status, type, text } = answer
    const where = `request ${k} of seed ${SEED}: ${asked.method} ${asked.path} ${JSON.stringify(asked.headers)} ${asked.body?.slice(0, 300)} → ${status} ${text.slice(0, 300)}`
    seen.set(status, (seen.get(status) ?? 0) + 1)
    // A method that is not for an address, and what is not changed, are answered everywhere.
    expect(described.has(status) || status === 405 || status === 304, where).toBe(true)
    expect(status, where).not.toBe(500)
    if (status >= 400 && asked.method !== 'HEAD') {
      expect(type, where).toContain('application/problem+json')
      expect(JSON.parse(text), where).toMatchObject({
        status,
        title: expect.any(String),
        detail: expect.stringMatching(/\S/),
      })
      expect(text, where).not.toMatch(/node_modules|\/work|\/tmp|\/home|\.ts:|at Object|SELECT|INSERT|undefined/)
    }
    if (k % 20 === 19) for (const id of ids) await call('POST', `/api/levels/${id}/restore`)
    if (k % 100 === 99) expect((await call('GET', '/api/health')).status).toBe(200)
  }
  expect([...seen.keys()]).toEqual(expect.arrayContaining([200, 400, 404, 405]))
  for (const id of ids) expect([200, 404]).toContain((await call('GET', `/api/levels/${id}`)).status)
})
