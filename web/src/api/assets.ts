import { assetHeadSchema } from '@tidytrail/contract'
import { api } from './client'

/** SHA-256 of some bytes, as 64 hexadecimal digits. */
export async function hashOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))
  return Array.from(digest, (b) => b.toString(16).padStart(2, '0')).join('')
}

/** Sends an asset; it is in the database when this returns. @returns its hash */
export async function putAsset(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const hash = await hashOf(bytes)
  const answer = await api(`/assets/${hash}`, {
    method: 'PUT',
    bytes,
    headers: { 'content-type': 'application/octet-stream' },
  })
  assetHeadSchema.parse(await answer.json())
  return hash
}

export async function fetchAsset(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await (await api(`/assets/${hash}`)).arrayBuffer())
}
