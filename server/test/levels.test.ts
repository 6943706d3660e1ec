import { openApiDocument } from '@tidytrail/contract'
import { blankLevel, type Level } from '@tidytrail/core/level'
import { lanternquay } from './levels'
import { createConnection } from 'mariadb'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { caller, connectionTo, patcher, startHarness, type Harness } from './harness'

let harness: Harness
beforeAll(async () => {
  harness = await startHarness()
})
afterAll(() => harness?.stop())

const call = caller(() => harness)
const patch = patcher(call)
const blank = async (name = 'A level') => (await call('POST', '/api/levels', { blank: { name } })).body.id as string
const countsOf = ({ routes, spawners }: Level) => ({
  routes: Object.keys(routes).length,
  spawners: Object.keys(spawners).length,
})

describe('levels over HTTP', () => {
  it('are made, listed with a sketch, read, duplicated, deleted and restored', async () => {
    const made = await call('POST', '/api/levels', { document: lanternquay() })
    expect(made.status).toBe(201)
    const { id } = made.body
    expect(made.headers.get('location')).toBe(`/api/levels/${id}`)
    const read = await call('GET', `/api/levels/${id}`)
    expect(read.headers.get('etag')).toBe('"1"')
    expect(read.body).toEqual(lanternquay())

    const copy = await call('POST', '/api/levels', { copyOf: id })
    const list = (await call('GET', '/api/levels')).body.levels as {
      id: string
      name: string
      counts: object
      sketch: { solids: [] }
    }[]
    expect(list.map((l) => l.name)).toEqual(
      expect.arrayContaining(['Lanternquay by night', 'Lanternquay by night, copy']),
    )
    expect(list.find((l) => l.id === id)).toMatchObject({ counts: countsOf(lanternquay()) })
    expect(list.find((l) => l.id === id)!.sketch.solids.length).toBeGreaterThan(10)

    expect((await call('DELETE', `/api/levels/${copy.body.id}`, undefined, { 'if-match': '"7"' })).status).toBe(412)
    expect((await call('DELETE', `/api/levels/${copy.body.id}`, undefined, { 'if-match': '"1"' })).status).toBe(204)
    expect((await call('GET', `/api/levels/${copy.body.id}`)).status).toBe(404)
    expect((await call('POST', `/api/levels/${copy.body.id}/restore`)).status).toBe(200)
    expect((await call('GET', `/api/levels/${copy.body.id}`)).status).toBe(200)
  })

  it('kept before the schema knew of something take patches to it all the same', async () => {
    const id = await blank('From last year')
    const connection = await createConnection(connectionTo(harness.mariadb))
    const [{ document }] = await connection.query('SELECT document FROM copies WHERE level_id = ?', [id])
    const old = JSON.parse(document)
    delete old.meshes
    delete old.profiles.pf_warden.climbM
    await connection.query('UPDATE copies SET document = ? WHERE level_id = ?', [JSON.stringify(old), id])
    await connection.end()
    const ops = [
      { op: 'replace', path: '/profiles/pf_warden/climbM', value: 0.9 },
      { op: 'replace', path: '/meshes', value: {} },
    ]
    expect((await patch(id, 1, ops)).status).toBe(200)
    expect((await call('GET', `/api/levels/${id}`)).body).toMatchObject({
      meshes: {},
      profiles: { pf_warden: { climbM: 0.9 } },
    })
  })

  it('change by a patch to the revision it was made for, and keep what was changed', async () => {
    const id = await blank()
    const saved = await patch(id, 1, [{ op: 'replace', path: '/name', value: 'Better name' }])
    expect(saved).toMatchObject({ status: 200, body: { id, revision: 2 } })
    expect(saved.headers.get('etag')).toBe('"2"')
    expect((await call('GET', `/api/levels/${id}`)).body.name).toBe('Better name')
    const { revisions } = (await call('GET', `/api/levels/${id}/revisions?since=1`)).body
    expect(revisions).toMatchObject([{ revision: 2, patch: [{ op: 'replace', path: '/name', value: 'Better name' }] }])
  })

  it('refuse a stale change with 412 and the revision they are at', async () => {
    const id = await blank()
    await patch(id, 1, [{ op: 'replace', path: '/note', value: 'first' }])
    const stale = await patch(id, 1, [{ op: 'replace', path: '/note', value: 'second' }])
    expect(stale).toMatchObject({ status: 412, body: { status: 412, revision: 2 } })
    expect(stale.headers.get('content-type')).toContain('application/problem+json')
    expect((await call('GET', `/api/levels/${id}`)).body.note).toBe('first')
  })

  it('take changes made on an older revision when they are to other things, and say what the others were', async () => {
    const id = await blank()
    await patch(id, 1, [{ op: 'add', path: '/markers/mk_a', value: { name: 'A', at: [1, 1, 0] } }], {
      'x-edit-id': 'batch-theirs',
    })
    const mine = await patch(id, 1, [{ op: 'add', path: '/markers/mk_b', value: { name: 'B', at: [2, 2, 0] } }])
    expect(mine).toMatchObject({
      status: 200,
      body: { revision: 3, others: [{ revision: 2, editId: 'batch-theirs', patch: [{ path: '/markers/mk_a' }, {}] }] },
    })
    expect(Object.keys((await call('GET', `/api/levels/${id}`)).body.markers)).toEqual(['mk_a', 'mk_b'])
  })

  it('say with a refusal what has changed since, and where', async () => {
    const id = await blank()
    await patch(id, 1, [{ op: 'add', path: '/waypoints/wp_a', value: { at: [1, 1, 0] } }])
    await patch(id, 2, [{ op: 'remove', path: '/waypoints/wp_a' }])
    // What it reads has gone: it is late, not wrong.
    const link = { fromId: 'wp_a', toId: 'wp_a' }
    expect(await patch(id, 2, [{ op: 'add', path: '/links/ln_a', value: link }])).toMatchObject({
      status: 412,
      body: { revision: 3, at: '/links/ln_a/fromId', changes: [{ revision: 3, patch: [{ op: 'remove' }] }] },
    })
    expect(await patch(id, 2, [{ op: 'replace', path: '/waypoints/wp_a/at', value: [2, 2, 0] }])).toMatchObject({
      status: 412,
      body: { at: '/waypoints/wp_a/at' },
    })
    expect(await patch(id, 3, [{ op: 'add', path: '/links/ln_a', value: link }])).toMatchObject({ status: 422 })
  })

  it('take an older test of a value that has changed as late', async () => {
    const id = await blank()
    await patch(id, 1, [{ op: 'replace', path: '/note', value: 'other' }])
    const ops = [
      { op: 'test', path: '/note', value: '' },
      { op: 'replace', path: '/name', value: 'New' },
    ]
    expect(await patch(id, 1, ops)).toMatchObject({ status: 412, body: { at: '/note' } })
  })

  it('of many changes made at once to one revision accept exactly one', async () => {
    const id = await blank()
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, k) => patch(id, 1, [{ op: 'replace', path: '/note', value: `n${k}` }])),
    )
    expect(answers.filter((a) => a.status === 200)).toHaveLength(1)
    expect(answers.filter((a) => a.status === 412)).toHaveLength(7)
  })

  it('keep a batch once, however often it is sent', async () => {
    const id = await blank()
    const ops = [{ op: 'replace', path: '/note', value: 'once' }]
    const first = await patch(id, 1, ops, { 'x-edit-id': 'batch-0001' })
    const again = await patch(id, 1, ops, { 'x-edit-id': 'batch-0001' })
    expect([first.body.revision, again.body.revision]).toEqual([2, 2])
    // Another change under the same name would be lost without a word.
    const other = await patch(id, 2, [{ op: 'replace', path: '/note', value: 'twice' }], { 'x-edit-id': 'batch-0001' })
    expect(other).toMatchObject({ status: 422, body: { detail: expect.stringContaining('another change') } })
    // Names that differ by case are different ones.
    expect((await patch(id, 2, ops, { 'x-edit-id': 'BATCH-0001' })).body.revision).toBe(3)
  })

  it('answer bad changes with problem details that name the place, and stay as they were', async () => {
    const id = await blank()
    const before = (await call('GET', `/api/levels/${id}`)).body
    const bad = (ops: unknown, headers = {}) => patch(id, 1, ops, headers)
    expect(await bad([{ op: 'replace', path: '/settings/cellM', value: -1 }])).toMatchObject({
      status: 422,
      body: { at: 'settings.cellM' },
    })
    expect(await bad([{ op: 'remove', path: '/solids/sd_none' }])).toMatchObject({
      status: 422,
      body: { at: 'operation 1' },
    })
    for (const op of [
      { op: 'replace', path: '/version', value: 0 },
      { op: 'replace', path: '/format', value: 'x' },
      { op: 'replace', path: '', value: {} },
    ])
      expect(await bad([op])).toMatchObject({ status: 422, body: { at: 'operation 1' } })
    expect(await bad([{ op: 'add', path: '/colour', value: 'red' }])).toMatchObject({
      status: 422,
      body: { at: 'colour' },
    })
    expect(
      await bad([
        { op: 'replace', path: '/profiles/pf_warden/tags', value: [] },
        { op: 'add', path: '/profiles/pf_warden/tags/00', value: 'x' },
      ]),
    ).toMatchObject({ status: 422 })
    expect(await bad([{ op: 'add', path: '/links/ln_a', value: { fromId: 'wp_x', toId: 'wp_y' } }])).toMatchObject({
      status: 422,
      body: { at: 'links.ln_a.fromId' },
    })
    expect(await bad([{ op: 'add', path: '/__proto__/polluted', value: 1 }])).toMatchObject({ status: 422 })
    expect(({} as { polluted?: number }).polluted).toBeUndefined()
    expect(await bad([{ op: 'explode', path: '/name' }])).toMatchObject({ status: 400, body: { at: '0.op' } })
    expect(await bad('{"op":')).toMatchObject({ status: 400 })
    expect(await bad([], { 'content-type': 'application/json' })).toMatchObject({ status: 415 })
    expect(
      await call('PATCH', `/api/levels/${id}`, [], { 'content-type': 'application/json-patch+json' }),
    ).toMatchObject({ status: 428 })
    expect((await call('GET', `/api/levels/${id}`)).body).toEqual(before)
  })

  it('refuse documents that are no levels, whole', async () => {
    const count = async () => (await call('GET', '/api/levels')).body.levels.length as number
    const before = await count()
    const post = (document: unknown) => call('POST', '/api/levels', { document })
    const good = blankLevel('Good') as Level & Record<string, unknown>
    expect(await post({ ...good, version: 99 })).toMatchObject({ status: 422, body: { at: 'version' } })
    expect(await post({ ...good, format: 'other' })).toMatchObject({ status: 422, body: { at: 'format' } })
    expect(await post({ ...good, waypoints: { wp_a: { at: [0, null, 0] } } })).toMatchObject({
      status: 422,
      body: { at: 'waypoints.wp_a.at.1' },
    })
    expect(
      await post({ ...good, spawners: { sp_a: { name: 'S', at: [0, 0, 0], profileId: 'pf_gone' } } }),
    ).toMatchObject({
      status: 422,
      body: { at: 'spawners.sp_a.profileId' },
    })
    const hostile = `{"document":${JSON.stringify(good).replace('"note"', '"__proto__"')}}`
    expect(await call('POST', '/api/levels', hostile)).toMatchObject({ status: 422, body: { at: '__proto__' } })
    expect(await call('POST', '/api/levels', 'not json')).toMatchObject({ status: 400 })
    expect(await call('POST', '/api/levels', { nothing: true })).toMatchObject({ status: 400 })
    expect(await count()).toBe(before)
  })

  it('refuse a request of 200 MB with 413 before reading it all', async () => {
    const response = await fetch(`${harness.url}/api/levels`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: Buffer.alloc(200 * 1024 * 1024, 0x20),
    }).catch((error: Error) => error)
    // The server may close the connection while the client is still sending.
    if (response instanceof Error)
      expect(String(response.cause ?? response)).toMatch(/EPIPE|ECONNRESET|closed|terminated/)
    else expect(response.status).toBe(413)
    expect((await call('GET', '/api/health')).body).toMatchObject({ status: 'ok' })
  })

  it('cannot be changed by a page from elsewhere', async () => {
    const id = await blank()
    expect(await patch(id, 1, [], { origin: 'http://elsewhere.example' })).toMatchObject({ status: 403 })
    expect((await patch(id, 1, [], { origin: harness.url })).status).toBe(200)
  })

  it('are described by an OpenAPI document', async () => {
    const { body } = await call('GET', '/api/openapi.json')
    expect(body).toEqual(JSON.parse(JSON.stringify(openApiDocument('0.1.0'))))
    expect(Object.keys(body.paths['/api/levels/{id}'])).toEqual(['get', 'patch', 'delete'])
    for (const operations of Object.values(body.paths) as Record<string, { responses: object }>[])
      for (const { responses } of Object.values(operations))
        for (const status of ['401', '421', '429', '500', '503']) expect(responses).toHaveProperty(status)
  })

  it('and anything unknown give a 404 with problem details', async () => {
    expect(await call('GET', '/api/levels/lv_nothere')).toMatchObject({
      status: 404,
      body: { title: 'There is no such thing' },
    })
    expect(await call('GET', '/api/levels/..%2f..%2fetc')).toMatchObject({ status: 404 })
    expect(await call('GET', '/api/nothing')).toMatchObject({ status: 404 })
    expect(await call('GET', '/api')).toMatchObject({ status: 404 })
  })

  it('and a method that is not for an address gives a 405 that says which are', async () => {
    for (const [method, path, allow] of [
      ['PUT', '/api/levels', 'GET, POST, HEAD'],
      ['POST', '/api/levels/lv_nothere', 'GET, PATCH, DELETE, HEAD'],
      ['GET', '/api/levels/lv_nothere/restore', 'POST'],
      ['DELETE', '/api/health', 'GET, HEAD'],
      ['PATCH', `/api/assets/${'0'.repeat(64)}`, 'GET, PUT, HEAD'],
    ]) {
      const answer = await call(method, path)
      expect(answer).toMatchObject({ status: 405, body: { status: 405 } })
      expect(answer.headers.get('allow')).toBe(allow)
    }
  })

  it('are not sent again to whoever has them', async () => {
    const id = await blank()
    const again = await fetch(`${harness.url}/api/levels/${id}`, { headers: { 'if-none-match': '"1"' } })
    expect(again.status).toBe(304)
    for (const path of ['/api/levels', '/api/health', `/api/levels/${id}/revisions`])
      expect((await call('GET', path)).headers.get('etag')).not.toMatch(/^W/)
    expect(await patch(id, 1, [], { 'if-match': 'W/"1"' })).toMatchObject({ status: 412 })
    expect(await patch(id, 1, [], { 'if-match': '1' })).toMatchObject({ status: 400 })
  })
})
