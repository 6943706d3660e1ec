import type { AgentEvent } from '@tidytrail/core/rehearsal'
import type { AgentInfo } from '../../workers/rehearsal.protocol'

/** What of a rehearsal tells who holds what. */
interface Told {
  readonly t: number
  readonly stepS: number
  readonly events: readonly AgentEvent[]
  readonly agents: readonly AgentInfo[]
  readonly recording: { readonly posts: readonly string[] }
}

/** Who of those some spawners sent holds which post at the moment looked at, by the posts' ids; and who has held none or given it up, and waits. */
export function holdingOf({ t, stepS, events, agents, recording }: Told, spawnerIds: readonly string[]) {
  const until = t / stepS + 1e-6
  const ours = new Map(
    agents.filter((a) => spawnerIds.includes(a.spawnerId) && a.appearedS <= t).map((a) => [a.key, a]),
  )
  const held = new Map<number, string>()
  const gone = new Set<number>()
  for (const e of events) {
    if (e.step > until) break
    if (!ours.has(e.key)) continue
    if (e.kind === 'took-post') held.set(e.key, recording.posts[e.a])
    else if (e.kind === 'gave-post') held.delete(e.key)
    else if (e.kind === 'left') gone.add(e.key)
  }
  const posts = new Map<string, string>()
  for (const [key, post] of held) if (!gone.has(key)) posts.set(post, ours.get(key)!.name)
  const waiting = [...ours.values()].filter((a) => !held.has(a.key) && !gone.has(a.key)).map((a) => a.name)
  return { posts, waiting }
}
