import {
  addThing,
  briefSchema,
  newStep,
  postSchema,
  setThings,
  spawnerSchema,
  squadSchema,
  zoneSchema,
  type BriefStep,
  type Edit,
} from '@tidytrail/core/level'

type Apply = <A>(edit: Edit<A>, args: A) => void

/** Faults of spawners, zones, posts and squads, on the western slope where nobody else goes. */
export function plantCast(apply: Apply, heightAt: (x: number, y: number) => number): void {
  const at = (x: number, y: number): [number, number, number] => [x, y, Math.round(heightAt(x, y) * 100) / 100]
  const spawner = (key: string, name: string, x: number, y: number, note: string, more: object = {}) =>
    apply(addThing, {
      in: 'spawners',
      id: `sp_${key}`,
      thing: spawnerSchema.parse({ name, at: at(x, y), profileId: 'pf_warden', factionId: 'fc_watch', note, ...more }),
    })
  const brief = (key: string, name: string, ...steps: BriefStep[]) => {
    const ids = steps.map((_, k) => `bs_${key}${k + 1}`)
    const thing = { name, steps: Object.fromEntries(steps.map((s, k) => [ids[k], s])), order: ids }
    apply(addThing, { in: 'briefs', id: `br_${key}`, thing: briefSchema.parse(thing) })
  }
  const zone = (key: string, name: string, x: number, y: number, radiusM: number, more: object = {}) =>
    apply(addThing, {
      in: 'zones',
      id: `zn_${key}`,
      thing: zoneSchema.parse({
        name,
        shape: 'circle',
        ring: [
          [x, y],
          [x + radiusM, y],
        ],
        ...more,
      }),
    })
  const post = (key: string, name: string, x: number, y: number, zoneId: string | null) =>
    apply(addThing, { in: 'posts', id: `ps_${key}`, thing: postSchema.parse({ name, at: at(x, y), zoneId }) })

  const [x, y, z] = at(8, 112)
  spawner('cellar', 'Cellar', x, y, 'It lies under the ground.', { at: [x, y, z - 2] })
  spawner('twin1', 'Twin, first', 11, 112, 'Its twin stands in it.')
  spawner('twin2', 'Twin, second', 11.3, 112, 'It stands in its twin.')
  spawner('crowd', 'Crowd', 14, 112, 'Twenty at once at one spot, and nobody goes anywhere.', { count: 20, everyS: 0 })
  spawner('ouroboros', 'Waits for itself', 17, 112, 'It begins when it is used up.', {
    begins: 'used-up',
    triggerSpawnerId: 'sp_ouroboros',
  })
  apply(setThings, {
    things: [{ in: 'spawners', id: 'sp_truck', set: { note: 'It faces against the way it is to go.' } }],
    word: 'Change',
  })

  // Two who are hostile in one zone; a zone nobody can stand in; one without posts; one with too few.
  zone('truce', 'No truce', 12, 120, 4)
  brief('truce', 'Be in No truce', newStep('wander', { zoneId: 'zn_truce' }))
  spawner('truce1', 'Truce, one side', 9, 118, 'The other side is told to be there too.', { briefId: 'br_truce' })
  spawner('truce2', 'Truce, other side', 15, 118, 'They are hostile.', { briefId: 'br_truce', factionId: 'fc_night' })
  zone('void', 'Over the roof', 12, 128, 3, { fromM: 40 })
  brief('void', 'Be over the roof', newStep('wander', { zoneId: 'zn_void' }))
  spawner('void', 'Roof dreamer', 9, 126, 'No floor is as high as its zone says.', { briefId: 'br_void' })
  zone('bare', 'Without posts', 12, 136, 4, { purpose: 'hold' })
  zone('few', 'One post', 12, 146, 4, { purpose: 'hold' })
  brief('stroll', 'Walk about on the boardwalks', newStep('stroll', { tag: 'boardwalk' }))
  spawner('stroll', 'Boardwalk stroller', 15, 126, 'No lane is a boardwalk.', { briefId: 'br_stroll' })
  brief('hold', 'Hold what its squad holds', newStep('hold'))
  post('few', 'The only post', 12, 146, 'zn_few')
  post('lost', 'Lost post', 16, 132, null)
  const squad = (key: string, name: string, zoneId: string) =>
    apply(addThing, {
      in: 'squads',
      id: `sq_${key}`,
      thing: squadSchema.parse({ name, zoneId, briefId: 'br_hold', factionId: 'fc_watch' }),
    })
  squad('bare', 'Squad without posts', 'zn_bare')
  squad('few', 'Squad of one post', 'zn_few')
  spawner('bare', 'Postless', 9, 134, 'Its zone has no posts to hold.', { squadId: 'sq_bare', factionId: null })
  spawner('few', 'Queue', 9, 143, 'Six for one post.', { squadId: 'sq_few', factionId: null, count: 6, everyS: 4 })

  zone('vault', 'Vault', 27, 140, 3, { purpose: 'keep-out', factionIds: ['fc_watch'] })
  spawner('vault', 'Vault keeper', 27, 140, 'The Watch is to keep out of where it appears.')

  // One start is nearer to what both want.
  zone('goal', 'Contested', 30, 150, 2, { purpose: 'contest' })
  zone('near', 'Near start', 22, 150, 2, { purpose: 'start' })
  zone('far', 'Far start', 10, 152, 2, { purpose: 'start' })
}
