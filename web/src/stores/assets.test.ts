import { heightGrid, meshAsset, packHeights, packMesh, lookUpMesh, unpackMesh } from '@tidytrail/core/ground'
import { blankLevel, levelSchema } from '@tidytrail/core/level'
import { fakeHash } from '@tidytrail/core/testing'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

const server = new Map<string, Uint8Array<ArrayBuffer>>()
const asked: string[] = []
vi.mock('../api/assets', () => ({
  fetchAsset: async (hash: string) => {
    asked.push(hash)
    const bytes = server.get(hash)
    if (!bytes) throw new Error('there is no such asset')
    return bytes
  },
  putAsset: async (bytes: Uint8Array<ArrayBuffer>) => {
    const hash = fakeHash(`put ${bytes.length}`)
    server.set(hash, bytes)
    return hash
  },
}))
const { useAssetStore } = await import('./assets')
const { toasts } = await import('../ui/toasts')

const triangle = (size: number) =>
  packMesh({ positions: Float32Array.from([0, 0, 0, size, 0, 0, 0, size, 0]), indices: Uint32Array.from([0, 1, 2]) })
const levelWith = (hash: string) =>
  levelSchema.parse({ ...blankLevel('L'), meshes: { ms_a: { name: '', assetId: hash, at: [0, 0, 0] } } })
/** A worker that looks meshes up at once. */
const worker = {
  given: [] as string[],
  async give(hash: string, bytes: Uint8Array) {
    worker.given.push(hash)
    const data = unpackMesh(bytes)
    const plan = { width: 1, height: 1, minX: 0, minY: 0, maxX: 1, maxY: 1, ink: new Uint8ClampedArray(1) }
    return { lookup: lookUpMesh(data), plan }
  },
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 5))

beforeEach(() => {
  setActivePinia(createPinia())
  asked.length = worker.given.length = 0
})

describe('the assets of a level', () => {
  it('are fetched once, and a mesh is known to the page when the worker has looked it up', async () => {
    const hash = fakeHash('one')
    server.set(hash, triangle(3) as Uint8Array<ArrayBuffer>)
    const assets = useAssetStore()
    assets.serve(worker)
    assets.want(levelWith(hash))
    assets.want(levelWith(hash))
    await settled()
    expect(asked).toEqual([hash])
    expect(meshAsset(hash)?.data.indices).toHaveLength(3)
    expect(assets.plans.has(hash)).toBe(true)
    expect(assets.version).toBe(1)
    expect(assets.waiting).toBe(0)
  })

  it('that came before the worker did are handed to it when it comes', async () => {
    const hash = fakeHash('early')
    server.set(hash, triangle(4) as Uint8Array<ArrayBuffer>)
    const assets = useAssetStore()
    assets.want(levelWith(hash))
    await settled()
    expect(meshAsset(hash)).toBeUndefined()
    assets.serve(worker)
    await settled()
    expect(worker.given).toEqual([hash])
    expect(meshAsset(hash)).toBeDefined()
  })

  it('that cannot be fetched are told of, and asked for again the next time', async () => {
    const hash = fakeHash('gone')
    const assets = useAssetStore()
    assets.serve(worker)
    assets.want(levelWith(hash))
    await settled()
    expect(toasts.at(-1)?.text).toContain('could not be fetched: there is no such asset')
    server.set(hash, triangle(5) as Uint8Array<ArrayBuffer>)
    assets.want(levelWith(hash))
    await settled()
    expect(assets.bytes.has(hash)).toBe(true)
  })

  it('just imported are at hand without being fetched', async () => {
    const assets = useAssetStore()
    const bytes = packHeights({ columns: 2, rows: 2, z: Float32Array.from([1, 2, 3, 4]) })
    const hash = await assets.put(bytes as Uint8Array<ArrayBuffer>)
    expect(heightGrid(hash)?.columns).toBe(2)
    expect(asked).toEqual([])
  })
})
