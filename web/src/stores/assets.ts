import {
  hasAsset,
  isHeightGrid,
  isMesh,
  provideAsset,
  provideMesh,
  unpackMesh,
  type MeshLookup,
} from '@tidytrail/core/ground'
import { assetIdsOf, type Level } from '@tidytrail/core/level'
import { defineStore } from 'pinia'
import { ref, shallowReactive, shallowRef } from 'vue'
import { fetchAsset, putAsset } from '../api/assets'
import { toast } from '../ui/toasts'

/** A mesh seen from above: how dark each place is inked, and the box it covers in the mesh's own metres. */
export interface MeshPlan {
  readonly width: number
  readonly height: number
  readonly minX: number
  readonly minY: number
  readonly maxX: number
  readonly maxY: number
  /** 0 to 255 for each pixel, north row first. */
  readonly ink: Uint8ClampedArray
}

/** What the worker makes of a mesh once. */
export interface LookedUp {
  readonly lookup: MeshLookup
  readonly plan: MeshPlan
}

/** Who works with assets beside the page: the workers. */
export interface AssetTaker {
  give(hash: string, bytes: Uint8Array): Promise<LookedUp | undefined> | void
}

/** The imported things a level refers to, fetched as they are needed and handed to whoever works with them. */
export const useAssetStore = defineStore('assets', () => {
  const bytes = new Map<string, Uint8Array<ArrayBuffer>>()
  const asked = new Set<string>()
  const plans = shallowReactive(new Map<string, MeshPlan>())
  const pictures = shallowReactive(new Map<string, ImageBitmap>())
  /** Goes up when something has come. */
  const version = ref(0)
  const waiting = ref(0)
  const surveyor = shallowRef<AssetTaker>()

  /** Has the page everything a level refers to? Fetches what is missing. */
  function want(level: Level): void {
    for (const hash of assetIdsOf(level)) {
      if (asked.has(hash)) continue
      asked.add(hash)
      void load(hash)
    }
  }

  async function load(hash: string): Promise<void> {
    waiting.value++
    try {
      const kept = bytes.get(hash) ?? (await fetchAsset(hash))
      bytes.set(hash, kept)
      await take(hash, kept)
    } catch (error) {
      asked.delete(hash)
      toast(`Something imported could not be fetched: ${(error as Error).message}`, { kind: 'alarm' })
    } finally {
      waiting.value--
    }
  }

  async function take(hash: string, of: Uint8Array<ArrayBuffer>): Promise<void> {
    if (isMesh(of)) {
      // The worker does the long part; the page only takes the result over.
      const made = await surveyor.value?.give(hash, of)
      if (made && !hasAsset(hash)) provideMesh(hash, unpackMesh(of, true), made.lookup)
      if (made) plans.set(hash, made.plan)
    } else if (isHeightGrid(of)) {
      provideAsset(hash, of)
      await surveyor.value?.give(hash, of)
    } else pictures.set(hash, await createImageBitmap(new Blob([of])))
    version.value++
  }

  /** Sends something imported to the server, and keeps it at hand. @returns its hash */
  async function put(of: Uint8Array<ArrayBuffer>): Promise<string> {
    const hash = await putAsset(of)
    bytes.set(hash, of)
    if (!asked.has(hash)) {
      asked.add(hash)
      await take(hash, of)
    }
    return hash
  }

  /** Everything some levels refer to, to go into a file; undefined while something is still being fetched. */
  function inside(...levels: readonly Level[]): Map<string, Uint8Array> | undefined {
    const found = new Map<string, Uint8Array>()
    for (const hash of levels.flatMap(assetIdsOf)) {
      const of = bytes.get(hash)
      if (!of) return undefined
      found.set(hash, of)
    }
    return found
  }

  /** A worker has begun, and knows nothing yet: what is here is handed to it. */
  function serve(taker: AssetTaker): void {
    surveyor.value = taker
    for (const [hash, of] of bytes) if (asked.has(hash)) void take(hash, of)
  }

  return { bytes, plans, pictures, version, waiting, want, put, inside, serve }
})
