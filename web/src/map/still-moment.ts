import type { AgentMoment } from '../stores/rehearsal'

/** An agent on its first leg that stands at 0, 0 and wants nothing; for tests. */
export const stillMoment = (more: Partial<AgentMoment> = {}): AgentMoment => ({
  x: 0,
  y: 0,
  z: 0,
  heading: 0,
  speed: 0,
  offLine: 0,
  state: 'walking',
  fromStop: 0,
  toStop: 1,
  wantTurn: 0,
  want: 0,
  limit: 0,
  by: 0,
  routeId: 'rt_a',
  ...more,
})
