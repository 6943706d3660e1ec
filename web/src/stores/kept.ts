import { MOST_STRETCHES, STRETCH_BYTES, type KeptRehearsal, type RehearsalAbout } from '@tidytrail/contract'
import { readRunFile, writeRunFile, type RunFile } from '@tidytrail/core/rehearsal'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { fetchRehearsal, keepRehearsal, listRehearsals, removeRehearsal } from '../api/rehearsals'
import { toast } from '../ui/toasts'
import { useInsightStore } from './insight'
import { useLevelStore } from './level'
import { useRehearsalStore } from './rehearsal'

/** Rehearsals that are kept of the level on the sheet. */
export const useKeptStore = defineStore('kept', () => {
  const levels = useLevelStore()
  const rehearsal = useRehearsalStore()
  const insight = useInsightStore()
  const list = shallowRef<readonly KeptRehearsal[]>()
  /** The share that has been sent of what is being kept; below 0 while nothing is. */
  const sent = ref(-1)
  const opening = ref('')
  /** Why the list could not be had; empty where it could. */
  const fault = ref('')

  async function refresh(): Promise<void> {
    if (!levels.id) return
    try {
      list.value = await listRehearsals(levels.id)
      fault.value = ''
    } catch (error) {
      fault.value = (error as Error).message
    }
  }

  /** The rehearsal on the sheet as a file; undefined while it is not all there. */
  function fileNow(name: string): RunFile | undefined {
    const copy = rehearsal.copyNow()
    if (!copy || !rehearsal.hash) return undefined
    return { ...copy, name, revision: levels.revision, seconds: rehearsal.seconds, hash: rehearsal.hash }
  }

  function aboutOf(file: RunFile, bytes: number): RehearsalAbout {
    const of = (word: string) => file.verdicts.filter((v) => v.verdict === word).length
    const results = [...insight.results.values()]
    return {
      name: file.name,
      revision: file.revision,
      seed: file.seed,
      seconds: file.seconds,
      hash: file.hash,
      agents: new Set(file.agents.map((a) => a.id)).size,
      verdicts: {
        follows: of('follows'),
        remarks: of('follows-with-remarks'),
        fails: of('does-not-follow'),
        untried: of('not-tried'),
      },
      trials: {
        holds: results.filter((r) => r.holds === true).length,
        fails: results.filter((r) => r.holds === false).length,
      },
      bytes,
    }
  }

  /** Keeps the rehearsal on the sheet in the database. */
  async function keep(name: string): Promise<void> {
    const file = fileNow(name)
    if (!file || !levels.id || sent.value >= 0) return
    sent.value = 0
    try {
      const bytes = writeRunFile(file)
      if (bytes.length > STRETCH_BYTES * MOST_STRETCHES)
        throw new Error(`it has ${Math.round(bytes.length / 1e6)} MB, more than can be kept; save it as a file`)
      const made = await keepRehearsal(levels.id, aboutOf(file, bytes.length), bytes, (share) => (sent.value = share))
      list.value = [made, ...(list.value ?? [])]
      toast(`“${name}” is kept.`)
    } catch (error) {
      toast(
        `It could not be kept: ${(error as Error).message}. Nothing half kept is left; try again, or save it as a file.`,
        {
          kind: 'alarm',
        },
      )
    } finally {
      sent.value = -1
    }
  }

  async function fetchFile(id: string): Promise<RunFile | undefined> {
    opening.value = id
    try {
      return readRunFile(await fetchRehearsal(id))
    } catch (error) {
      toast(`It could not be opened: ${(error as Error).message}`, { kind: 'alarm' })
      return undefined
    } finally {
      opening.value = ''
    }
  }

  /** Shows a kept rehearsal as it was. */
  async function open(id: string): Promise<void> {
    const file = await fetchFile(id)
    if (file) rehearsal.openKept(id, file)
  }

  async function remove(id: string): Promise<void> {
    try {
      await removeRehearsal(id)
      list.value = list.value?.filter((r) => r.id !== id)
    } catch (error) {
      toast(`It could not be thrown away: ${(error as Error).message}`, { kind: 'alarm' })
    }
  }

  return { list, sent, opening, fault, refresh, fileNow, keep, fetchFile, open, remove }
})
