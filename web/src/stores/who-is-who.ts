import { computed, type Ref } from 'vue'
import type { AgentInfo } from '../workers/rehearsal.protocol'

/** Agents of a rehearsal by their keys and ids. @param t the moment looked at, seconds */
export function whoIsWho(agents: Readonly<Ref<readonly AgentInfo[]>>, t: Readonly<Ref<number>>) {
  /** The places in the list of all that go by an id: a cart that is got out of is another agent with the id it had before. */
  const byId = computed(() => {
    const places = new Map<string, number[]>()
    agents.value.forEach(({ id }, n) => {
      const known = places.get(id)
      if (known) known.push(n)
      else places.set(id, [n])
    })
    return places
  })
  /** The place in the list of who goes by an id at the moment looked at; −1 for nobody. */
  function placeOf(id: string): number {
    const places = byId.value.get(id) ?? []
    return places.findLast((n) => agents.value[n].appearedS <= t.value + 0.1) ?? places[0] ?? -1
  }
  const count = computed(() => byId.value.size)
  const byKey = computed(() => new Map(agents.value.map((a) => [a.key, a])))
  const nameOf = (key: number) => byKey.value.get(key)?.name
  return { placeOf, count, byKey, nameOf }
}
