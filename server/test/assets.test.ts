import { createHash } from 'node:crypto'
import { packMesh } from '@tidytrail/core/ground'
import { blankLevel } from '@tidytrail/core/level'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startHarness, type Harness } from './harness'

let harness: Harness
beforeAll(async () => {
  harness = await startHarness()
})
afterAll(() => harness?.stop())

const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex')
const put = (hash: string, body: Uint8Array | ReadableStream, type = 'application/octet-stream') =>
  fetch(`${harness.url}/api/assets/${hash}`, {
    method: 'PUT',
    headers: { 'content-type': type },
    body: body as BodyInit,
    ...({ duplex: 'half' } as object),
  })
/** A mesh of so many triangles, all different. */
function mesh(triangles: number): Uint8Array {
  const positions = Float32Array.from({ length: triangles * 9 }, (_, k) => k * 0.25)
  return packMesh({ positions, indices: Uint32Array.from({ length: triangles * 3 }, (_, k) => k) })
}

describe('assets over HTTP', () => {
  it('are kept by their hash, come back byte for byte, and are kept once', async () => {
    const bytes = mesh(40_000)
    const hash = sha(bytes)
    expect((await put(hash, bytes)).status).toBe(201)
    expect((await put(hash, bytes)).status).toBe(200)
    const got = await fetch(`${harness.url}/api/assets/${hash}`)
    expect(got.headers.get('content-type')).toBe('application/x-tidytrail-mesh')
    expect(got.headers.get('cache-control')).toContain('immutable')
    expect(sha(new Uint8Array(await got.arrayBuffer()))).toBe(hash)
  })

  it('sent by two at once are kept once', async () => {
    const bytes = mesh(900)
    const answers = await Promise.all([put(sha(bytes), bytes), put(sha(bytes), bytes)])
    expect(answers.every((a) => a.ok)).toBe(true)
  })

  it.each<[string, string, Uint8Array, string | undefined, number, RegExp]>([
    ['with another hash', '0'.repeat(64), mesh(3), undefined, 422, /bytes that came have the hash/],
    ['empty', sha(new Uint8Array()), new Uint8Array(), undefined, 422, /is empty/],
    ['of no known kind', sha(Buffer.from('<script>')), Buffer.from('<script>'), undefined, 415, /a mesh, heights/],
    ['of another type', sha(mesh(77)), mesh(77), 'text/html', 415, /octet-stream/],
    ['under a name that is no hash', '..%2fpasswd', mesh(78), undefined, 404, /SHA-256/],
  ])('%s are refused, and nothing of them stays', async (_what, hash, bytes, type, status, detail) => {
    const answer = await put(hash, bytes, type)
    expect(answer.status).toBe(status)
    expect((await answer.json()).detail).toMatch(detail)
    // Neither under the name it was sent by nor under its own.
    for (const name of [hash, sha(bytes)]) expect((await fetch(`${harness.url}/api/assets/${name}`)).status).toBe(404)
  })

  it('too large are refused while they come, without being held in memory', async () => {
    const part = new Uint8Array(4 * 1024 * 1024)
    part.set(mesh(1).subarray(0, 12))
    let sent = 0
    const before = process.memoryUsage().rss
    const body = new ReadableStream({
      pull(c) {
        if (sent++ < 40) c.enqueue(part)
        else c.close()
      },
    })
    const answer = await put('1'.repeat(64), body).catch(() => undefined)
    // The server may hang up on the sender before it has read the answer.
    if (answer) expect(answer.status).toBe(413)
    expect((process.memoryUsage().rss - before) / 1024 / 1024).toBeLessThan(150)
    expect((await fetch(`${harness.url}/api/assets/${'1'.repeat(64)}`)).status).toBe(404)
  })

  it('must be here before a level refers to them', async () => {
    const bytes = mesh(7)
    const assetId = sha(bytes)
    const level = {
      ...blankLevel('Imported'),
      meshes: { ms_a: { name: 'Deck', assetId, at: [0, 0, 0] } },
    }
    const post = () =>
      fetch(`${harness.url}/api/levels`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ document: level }),
      })
    const refused = await post()
    expect(refused.status).toBe(422)
    expect((await refused.json()).detail).toMatch(/which is not here; send it first/)
    await put(assetId, bytes)
    expect((await post()).status).toBe(201)
  })
})
