import {
  rehearsalListSchema,
  rehearsalMadeSchema,
  rehearsalSchema,
  STRETCH_BYTES,
  type KeptRehearsal,
  type RehearsalAbout,
} from '@tidytrail/contract'
import { api } from './client'

export async function listRehearsals(levelId: string): Promise<KeptRehearsal[]> {
  return rehearsalListSchema.parse(await (await api(`/levels/${levelId}/rehearsals`)).json()).rehearsals
}

/**
 * Keeps a rehearsal: its bytes go in stretches, and it is there once all have come. When one cannot be sent, what was
 * sent is taken back, so that nothing half kept is left.
 * @param tell is given the share that has been sent, 0 to 1
 */
export async function keepRehearsal(
  levelId: string,
  about: RehearsalAbout,
  bytes: Uint8Array<ArrayBuffer>,
  tell: (share: number) => void,
): Promise<KeptRehearsal> {
  const made = await api(`/levels/${levelId}/rehearsals`, { method: 'POST', body: about })
  const { id } = rehearsalMadeSchema.parse(await made.json())
  try {
    const count = Math.ceil(bytes.length / STRETCH_BYTES)
    for (let n = 0; n < count; n++) {
      await api(`/rehearsals/${id}/stretches/${n}`, {
        method: 'PUT',
        bytes: bytes.slice(n * STRETCH_BYTES, (n + 1) * STRETCH_BYTES),
        headers: { 'content-type': 'application/octet-stream' },
      })
      tell((n + 1) / count)
    }
    return rehearsalSchema.parse(await (await api(`/rehearsals/${id}/whole`, { method: 'POST' })).json())
  } catch (error) {
    await removeRehearsal(id).catch(() => {})
    throw error
  }
}

export async function fetchRehearsal(id: string): Promise<Uint8Array> {
  return new Uint8Array(await (await api(`/rehearsals/${id}`)).arrayBuffer())
}

export async function removeRehearsal(id: string): Promise<void> {
  await api(`/rehearsals/${id}`, { method: 'DELETE' })
}
