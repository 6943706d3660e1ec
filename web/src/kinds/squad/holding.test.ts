import { describe, expect, it } from 'vitest'
import type { AgentEvent } from '@tidytrail/core/rehearsal'
import type { AgentInfo } from '../../workers/rehearsal.protocol'
import { holdingOf } from './holding'

const agent = (key: number, name: string, spawnerId = 'sp_a', appearedS = 0) =>
  ({ key, name, spawnerId, appearedS }) as AgentInfo
const event = (step: number, key: number, kind: AgentEvent['kind'], a = 0): AgentEvent => ({ step, key, kind, a, b: 0, c: 0, route: -1 }) // prettier-ignore
const told = {
  stepS: 0.1,
  recording: { posts: ['ps_gate', 'ps_tower'] },
  agents: [agent(1, 'Ann'), agent(2, 'Bo'), agent(3, 'Cy'), agent(4, 'Other', 'sp_b'), agent(5, 'Late', 'sp_a', 50)],
  events: [
    event(0, 1, 'took-post', 0),
    event(1, 2, 'took-post', 1),
    event(1, 4, 'took-post', 1),
    event(100, 1, 'gave-post', 0),
    event(101, 3, 'took-post', 0),
    event(200, 2, 'left'),
  ],
}
const at = (t: number) => holdingOf({ ...told, t }, ['sp_a'])

describe('who holds which post', () => {
  it('is told by what has happened up to the moment looked at', () => {
    expect(Object.fromEntries(at(5).posts)).toEqual({ ps_gate: 'Ann', ps_tower: 'Bo' })
    expect(at(5).waiting).toEqual(['Cy'])
    expect(Object.fromEntries(at(12).posts)).toEqual({ ps_gate: 'Cy', ps_tower: 'Bo' })
    expect(at(12).waiting).toEqual(['Ann'])
  })

  it('leaves out who has left, who has not come, and whoever is of another spawner', () => {
    expect(Object.fromEntries(at(30).posts)).toEqual({ ps_gate: 'Cy' })
    expect(at(30).waiting).toEqual(['Ann'])
    expect(at(60).waiting).toEqual(['Ann', 'Late'])
  })
})
