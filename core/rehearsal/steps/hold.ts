import { byText } from '../by-text'
import type { Engine } from '../engine'
import { hasArrived } from '../travel'
import { STATE } from '../world'
import { headFor, headInto, lookAgain, standUntil, timeIsUp } from './make-for'
import { areaFor, gaitedRow, type PostRow, type StepEnd, type StepRow, type StepRun } from './step'

/** Who waits for a post looks for one so often, seconds. */
const LOOKS_S = 1
const [WAITS, GOES, HOLDS] = [0, 1, 2]

export const hold: StepRun<'hold'> = {
  kind: 'hold',
  compile(context, step) {
    const { level, registers } = context
    const zoneId = step.zoneId ?? context.zoneId
    const posts = Object.keys(level.posts)
      .filter((id) => zoneId !== null && level.posts[id].zoneId === zoneId)
      .sort((a, b) => level.posts[b].worth - level.posts[a].worth || byText(a, b))
      .map((id): PostRow => {
        const { at, facingRad, worth } = level.posts[id]
        return { number: registers.posts.of(id), at, facingRad, worth }
      })
    return {
      ...gaitedRow(step, context.profile),
      area: areaFor(level, zoneId),
      posts,
      turnS: step.turnS ?? 0,
      forS: step.forS ?? 0,
    }
  },
  begin(engine, n, row) {
    if (!row.area) return 'no-zone'
    if (row.posts.length === 0) return 'no-posts'
    return takePost(engine, n, row)
  },
  update(engine, n, row) {
    const { world, t } = engine
    if (timeIsUp(engine, n, row)) {
      givePostUp(engine, n)
      return 'done'
    }
    const post = row.posts.find((p) => p.number + 1 === world.post[n])
    if (!post) {
      // On the way to where it waits it goes on.
      if (world.state[n] === STATE.walking && !hasArrived(engine, n) && freePost(engine, n, row) === undefined) {
        lookAgain(engine, n, row, LOOKS_S)
        return 'running'
      }
      return takePost(engine, n, row)
    }
    lookAgain(engine, n, row, LOOKS_S)
    if (world.phase[n] === GOES) {
      if (world.state[n] === STATE.walking && !hasArrived(engine, n)) return 'running'
      world.phase[n] = HOLDS
      world.phaseSince[n] = t
    }
    if (row.turnS > 0 && t - world.phaseSince[n] >= row.turnS && someoneWaits(engine, n, row)) {
      givePostUp(engine, n)
      world.phase[n] = WAITS
      world.phaseSince[n] = t
      return waitNear(engine, n, row)
    }
    standUntil(engine, n, t + LOOKS_S, post.facingRad)
    return 'running'
  },
  resume(engine, n, row) {
    const post = row.posts.find((p) => p.number + 1 === engine.world.post[n])
    return post ? goThere(engine, n, row, post) : this.begin(engine, n, row)
  },
}

/** Leaves the post it holds to others. */
export function givePostUp(engine: Engine, n: number): void {
  const { world } = engine
  if (world.post[n] > 0) engine.log(n, 'gave-post', world.post[n] - 1)
  world.post[n] = 0
}

/** The best post nobody holds, where this one's turn it is: those who have waited longer come first. */
function freePost(engine: Engine, n: number, row: StepRow): PostRow | undefined {
  const { world } = engine
  const taken = new Set<number>()
  for (let m = 0; m < world.count; m++) if (world.key[m] !== 0 && world.post[m] > 0) taken.add(world.post[m] - 1)
  const free = row.posts.filter((p) => !taken.has(p.number))
  if (free.length === 0) return undefined
  let before = 0
  for (let m = 0; m < world.count; m++) {
    if (m === n || !waits(engine, m, row)) continue
    const longer = world.phaseSince[m] - world.phaseSince[n]
    if (longer < 0 || (longer === 0 && world.key[m] < world.key[n])) before++
  }
  return free[before]
}

/** Does somebody wait for a post of the same zone? */
function waits(engine: Engine, m: number, row: StepRow): boolean {
  const { world } = engine
  if (world.key[m] === 0 || world.within[m] !== 0 || world.post[m] > 0) return false
  const other = engine.rowOf(m)
  return other?.kind === 'hold' && other.area === row.area
}
function someoneWaits(engine: Engine, n: number, row: StepRow): boolean {
  for (let m = 0; m < engine.world.count; m++) if (m !== n && waits(engine, m, row)) return true
  return false
}

function takePost(engine: Engine, n: number, row: StepRow): StepEnd {
  const { world, t } = engine
  lookAgain(engine, n, row, LOOKS_S)
  if (world.phase[n] !== WAITS || world.phaseSince[n] < world.stepSince[n]) world.phaseSince[n] = t
  world.phase[n] = WAITS
  const post = freePost(engine, n, row)
  if (!post) return world.phaseSince[n] === t ? waitNear(engine, n, row) : stay(engine, n)
  world.post[n] = post.number + 1
  engine.log(n, 'took-post', post.number)
  return goThere(engine, n, row, post)
}

function goThere(engine: Engine, n: number, row: StepRow, post: PostRow): StepEnd {
  engine.world.phase[n] = GOES
  lookAgain(engine, n, row, LOOKS_S)
  const how = headFor(engine, n, row, post.at, 0.3)
  if (how !== 'running') givePostUp(engine, n)
  return how
}

function stay(engine: Engine, n: number): StepEnd {
  standUntil(engine, n, engine.t + LOOKS_S)
  return 'running'
}

/** Goes somewhere in the zone, out of the way of those who hold its posts. */
const waitNear = (engine: Engine, n: number, row: StepRow): StepEnd =>
  headInto(engine, n, row, row.area!) ?? stay(engine, n)
