import { watch } from 'vue'

/**
 * What is shown anew only while somebody looks: what changes meanwhile is made up for when they look again, each
 * thing once, as it is then.
 * @param looked is it looked at?
 * @param begin called when it is looked at again, after all is made up for; @param end when it no longer is
 */
export function whenLookedAt(looked: () => boolean, begin: () => void, end: () => void) {
  const later = new Map<string, () => unknown>()
  watch(
    looked,
    (now) => {
      if (!now) return end()
      const due = [...later.values()]
      later.clear()
      for (const work of due) work()
      begin()
    },
    { flush: 'post' },
  )
  /** Shows something anew, now or later. @param what by which it is done once, however often it is asked for */
  return (what: string, work: () => unknown): void => {
    if (looked()) work()
    else later.set(what, work)
  }
}
