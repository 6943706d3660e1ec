import type { Engine } from './engine'
import { judgeOne } from './judge'

/** Takes an agent out of the run. @param judged is the verdict on it kept? That on one who is no longer in the level is not. @param told by its brief */
export function leave(engine: Engine, n: number, judged: boolean, told = false): void {
  const { world, members, t } = engine
  engine.log(n, 'left', told ? 1 : 0)
  const member = members.find((m) => m.key === world.key[n])
  if (member) {
    member.leftS = t
    if (judged) engine.left.set(member.key, judgeOne(engine, n))
  }
  const k = world.spawner[n]
  world.by.there[k]--
  world.by.leftAt[k] = t
  if (world.rides[n] > 0) world.by.there[world.rides[n] - 1]--
  world.free(n)
}
