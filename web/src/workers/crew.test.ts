import { CheckedSurvey } from '@tidytrail/core/checks'
import { changeThings, type Level, type PatchOp } from '@tidytrail/core/level'
import { prisms, sceneLevel, strewnObstacles, digestOf } from '@tidytrail/core/testing'
import { expose, transfer, wrap, type Endpoint } from 'comlink'
import { afterEach, describe, expect, it } from 'vitest'
import { Crew } from './crew'
import type { Tiler } from './tiler.protocol'
import { makeTiler } from './tiling'

const ports: MessagePort[] = []
/** A tiler at the other end of a channel, its levels copied and its tiles handed over as between threads. */
function otherThread(tiler: Tiler = makeTiler(transfer)) {
  const { port1, port2 } = new MessageChannel()
  ports.push(port1, port2)
  expose(tiler, port1 as Endpoint)
  return wrap<Tiler>(port2 as Endpoint)
}
afterEach(() => ports.splice(0).forEach((port) => port.close()))

const breathe = () => new Promise((resolve) => setTimeout(resolve, 1))

/** Brings a survey up to date with help. @returns how many tiles came from the other thread */
async function update(survey: CheckedSurvey, crew: Crew, level: Level, patch?: PatchOp[]): Promise<number> {
  const aid = crew.aid()!
  let come = 0
  const counting = {
    ask: aid.ask,
    take: () => {
      const answers = aid.take()
      come += answers.filter(({ built }) => built).length
      return answers
    },
  }
  for (const _ of survey.updating(level, patch, counting)) await breathe()
  return come
}

/** All a reach map is made of. */
const tilesOf = (survey: CheckedSurvey) => survey.plannerFor('pf_warden')!.map.tiles.map(digestOf)

const level = sceneLevel(112, 80, prisms(strewnObstacles(80, 14, 2, 1.2)))

describe('a survey with another thread to help', () => {
  it('comes to just what it comes to alone, from cold and edit by edit', async () => {
    const crew = new Crew(otherThread())
    const [helped, alone] = [new CheckedSurvey(), new CheckedSurvey()]
    helped.also = alone.also = ['pf_warden']
    crew.setLevel(level)
    expect(await update(helped, crew, level)).toBeGreaterThan(4)
    alone.update(level)
    expect(tilesOf(helped)).toEqual(tilesOf(alone))

    let now = level
    const ids = Object.keys(level.solids)
    for (let k = 0; k < 4; k++) {
      const { heightM } = now.solids[ids[k]]
      const changes = { [ids[k]]: { heightM: heightM / 2 }, [ids[k + 4]]: { heightM: 0.1 } }
      const { level: next, patch } = changeThings.apply(now, { in: 'solids', changes })
      now = next
      crew.patch([...patch])
      await update(helped, crew, now, [...patch])
      alone.update(now, patch)
      expect(tilesOf(helped)).toEqual(tilesOf(alone))
    }
  })

  it('takes nothing that was built for another level than its own', async () => {
    const crew = new Crew(otherThread())
    const survey = new CheckedSurvey()
    survey.also = ['pf_warden']
    crew.setLevel(level)
    const aid = crew.aid()!
    // A newer level has come to the other thread, and not yet to the survey.
    const empty = { ...level, solids: {} }
    crew.setLevel(empty)
    for (const _ of survey.updating(level, undefined, aid)) await breathe()
    const alone = new CheckedSurvey()
    alone.also = ['pf_warden']
    alone.update(level)
    expect(tilesOf(survey)).toEqual(tilesOf(alone))
  })

  it('goes on alone when the other breaks down', async () => {
    const broken = makeTiler(transfer)
    const crew = new Crew(
      otherThread({
        ...broken,
        build: () => {
          throw new Error('out of memory')
        },
      }),
    )
    const survey = new CheckedSurvey()
    survey.also = ['pf_warden']
    crew.setLevel(level)
    expect(await update(survey, crew, level)).toBe(0)
    expect(survey.plannerFor('pf_warden')!.map.version).toBe(1)
    expect(crew.aid()).toBeUndefined()
  })

  it('goes on alone when the other is lost while it is waited for', async () => {
    const crew = new Crew(otherThread())
    const [survey, alone] = [new CheckedSurvey(), new CheckedSurvey()]
    survey.also = alone.also = ['pf_warden']
    crew.setLevel(level)
    const aid = crew.aid()
    let lost = false
    for (const _ of survey.updating(level, undefined, aid)) {
      // Its end of the channel is shut: what it has been asked for never comes.
      if (!lost) ports.at(-2)!.close()
      lost = true
      crew.lose()
      await breathe()
    }
    alone.update(level)
    expect(tilesOf(survey)).toEqual(tilesOf(alone))
    expect(crew.aid()).toBeUndefined()
  })

  it('has none where there is no other thread', () => {
    const crew = new Crew()
    crew.setLevel(level)
    expect(crew.aid()).toBeUndefined()
  })
})

describe('the other thread', () => {
  it('leaves what is asked of an older edition, and of profiles it does not know', () => {
    const tiler = makeTiler((tiles) => tiles)
    tiler.setLevel(level, 1)
    expect(tiler.build(1, 'pf_warden', [0, 1]).filter(Boolean)).toHaveLength(2)
    tiler.patch([{ op: 'remove', path: `/solids/${Object.keys(level.solids)[0]}` }], 2)
    expect(tiler.build(1, 'pf_warden', [0])).toEqual([undefined])
    expect(tiler.build(2, 'pf_nobody', [0])).toEqual([undefined])
  })
})
