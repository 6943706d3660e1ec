import { exact, type Point3 } from '@tidytrail/core/geometry'
import { areaOf, type Area, type BriefWhen, type Spawner } from '@tidytrail/core/level'
import { FIELD, FRAME_FIELDS, FRAMES_PER_SECOND, type Recorded } from '@tidytrail/core/rehearsal'
import { loudnessAt, Lookers, type Look } from './lookers'

/** One reason why something did not happen, and the moment it is best seen at. Seconds. */
export interface Reason {
  readonly text: string
  readonly atS: number | undefined
  /** Who it was that came nearest to it, or stood in its way. */
  readonly key: number | undefined
}

/** Everybody looks round so many times a second. */
const LOOKS_HZ = 5

const place = (frame: Int32Array, r: number): Point3 => [
  frame[r + FIELD.x] / 1000,
  frame[r + FIELD.y] / 1000,
  frame[r + FIELD.z] / 1000,
]
const nameIn = ({ agents }: Recorded, key: number) => agents.find((a) => a.key === key)?.name ?? 'somebody'
const reason = (text: string, atS?: number, key?: number): Reason => ({ text, atS, key })
const lengthOf = ({ frameCount }: Recorded) => Math.max(0, frameCount - 1) / FRAMES_PER_SECOND
const s1 = (s: number) => `${s.toFixed(1)} s`
const m1 = (m: number) => `${m.toFixed(1)} m`

/** Why did nobody of a spawner appear, or not sooner? */
export function whyNobodyCame(recorded: Recorded, spawnerId: string): Reason[] {
  const { level, agents } = recorded
  const spawner = level.spawners[spawnerId]
  if (!spawner) return [reason('It is no longer in the level.')]
  const came = agents.filter((a) => a.spawnerId === spawnerId)
  const told: Reason[] = []
  const [first] = came
  if (first)
    told.push(reason(`It sent ${came.length}, the first at ${s1(first.appearedS)}.`, first.appearedS, first.key))
  if (spawner.profileId === null) return [...told, reason('It has no profile, so there is no body to send.')]
  if (!level.profiles[spawner.profileId]) return [...told, reason('Its profile is no longer in the level.')]
  if (spawner.count === 0) return [...told, reason('It is to send nobody.')]
  if (first && (came.length >= spawner.count || spawner.alive === 'keep')) return told
  const waits = first ? [] : whatItWaitsFor(recorded, spawner)
  if (waits.length > 0) return [...told, ...waits]
  const lastS = lengthOf(recorded)
  const dueS = spawner.firstAfterS + came.length * spawner.everyS
  if (spawner.begins === 'start' && dueS > lastS)
    return [...told, reason(`The next is due at ${s1(dueS)}; so far ${s1(lastS)} are rehearsed.`)]
  if (spawner.untilS !== null && dueS > spawner.untilS)
    told.push(reason(`It sends nobody after ${s1(spawner.untilS)}.`, spawner.untilS))
  return [...told, ...whatStandsInTheWay(recorded, spawner)]
}

/** What a spawner waits for that has not happened. */
function whatItWaitsFor(recorded: Recorded, spawner: Spawner): Reason[] {
  const { level, agents } = recorded
  const other = level.spawners[spawner.triggerSpawnerId ?? '']
  const sent = agents.filter((a) => a.spawnerId === spawner.triggerSpawnerId)
  switch (spawner.begins) {
    case 'start':
      return []
    case 'used-up':
      if (!other) return [reason('It waits for another spawner to be used up, but none is chosen.')]
      if (other.alive === 'keep') return [reason(`It waits for ${other.name} to be used up, which goes on for ever.`)]
      return sent.length < other.count
        ? [reason(`It waits for ${other.name} to be used up: that has sent ${sent.length} of ${other.count}.`)]
        : []
    case 'left': {
      const gone = (other ? sent : agents).some((a) => a.leftS !== undefined)
      return gone ? [] : [reason(`It waits for somebody${other ? ` of ${other.name}` : ''} to leave, and nobody has.`)]
    }
    default: {
      const zone = level.zones[spawner.triggerZoneId ?? '']
      const area = zone && areaOf(level, zone)
      if (!area) return [reason('It waits for somebody in a zone, but no zone is chosen.')]
      const near = nearestTo(recorded, area, spawner.triggerFactionId)
      const faction = level.factions[spawner.triggerFactionId ?? '']?.name
      const who = faction ? `of ${faction} ` : ''
      if (!near) return [reason(`It waits for somebody ${who}in ${zone.name}, and there was nobody at all.`)]
      if (near.m > 0)
        return [
          reason(
            `It waits for somebody ${who}in ${zone.name}: nobody came; ${nameIn(recorded, near.key)} came within ${m1(near.m)}.`,
            near.atS,
            near.key,
          ),
        ]
      return spawner.begins === 'entered'
        ? []
        : [reason(`It waits until nobody ${who}is left in ${zone.name}.`, near.atS, near.key)]
    }
  }
}

/** Who came nearest to an area, and how near: 0 within. */
function nearestTo(recorded: Recorded, area: Area, factionId: string | null) {
  let best: { m: number; key: number; atS: number } | undefined
  const factions = new Map(recorded.agents.map((a) => [a.key, a.factionId]))
  for (let k = 0; k < recorded.frameCount; k += FRAMES_PER_SECOND / LOOKS_HZ) {
    const frame = recorded.frame(k)
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      if (factionId !== null && factions.get(frame[r]) !== factionId) continue
      const [x, y, z] = place(frame, r)
      const m = area.holds(x, y, z) ? 0 : area.edgeM(x, y)
      if (!best || m < best.m) best = { m, key: frame[r], atS: k / FRAMES_PER_SECOND }
      if (m === 0) return best
    }
  }
  return best
}

/** What keeps somebody from appearing whose time has come. */
function whatStandsInTheWay(recorded: Recorded, spawner: Spawner): Reason[] {
  const told: Reason[] = []
  if (spawner.beyondM !== null) {
    const near = playerNear(recorded, spawner.at, spawner.beyondM)
    if (near) told.push(reason(`A player is nearer than ${m1(spawner.beyondM)}.`, near.atS, near.key))
  }
  if (spawner.unseen) told.push(reason('It sends nobody where a player could see it.'))
  const stands = standsThere(recorded, spawner.at)
  if (stands) told.push(reason(`${nameIn(recorded, stands.key)} stands where it appears.`, stands.atS, stands.key))
  return told.length > 0 ? told : [reason('There is no room where it is to appear: look at what is found about it.')]
}

function playerNear(recorded: Recorded, at: Point3, m: number) {
  const players = new Set(recorded.agents.filter((a) => a.standIn).map((a) => a.key))
  return lastNear(recorded, at, m, (key) => players.has(key))
}

const BODY_M = 1
const standsThere = (recorded: Recorded, at: Point3) => lastNear(recorded, at, BODY_M, () => true)

/** Whoever is near a place at the end of what is recorded. */
function lastNear(recorded: Recorded, [x, y]: Point3, m: number, counts: (key: number) => boolean) {
  if (recorded.frameCount === 0) return undefined
  const k = recorded.frameCount - 1
  const frame = recorded.frame(k)
  for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
    const [px, py] = place(frame, r)
    if (counts(frame[r]) && exact.hypot(px - x, py - y) <= m) return { key: frame[r], atS: k / FRAMES_PER_SECOND }
  }
  return undefined
}

/** How it stood between somebody who was to notice and whom it was to notice. */
type Miss = 'too-far' | 'looked-away' | 'behind' | 'not-near-enough' | 'noticed'

const MISS_WORDS: Record<Miss, string> = {
  'too-far': 'was too far off',
  'looked-away': 'was not where it looked',
  behind: 'was behind something',
  'not-near-enough': 'was noticed, but not as near as the sentence says',
  noticed: 'was noticed',
}

/** Why did a standing sentence about seeing or hearing somebody not begin, or not sooner? */
export function whyNotNoticed(recorded: Recorded, key: number, when: BriefWhen): Reason[] {
  const { level, agents, events, stepS } = recorded
  const agent = agents.find((a) => a.key === key)
  const brief = level.briefs[agent?.briefId ?? '']
  if (!agent || !brief) return [reason('It has no brief, so nothing interrupts it.')]
  const index = brief.whens.findIndex((w) => w.id === when.id)
  const begun = events.filter((e) => e.key === key && e.kind === 'interrupted' && e.a === index)
  const told = begun
    .slice(0, 3)
    .map((e) =>
      reason(
        `It did at ${s1(e.step * stepS)}${e.b > 0 ? `, for ${nameIn(recorded, e.b)}` : ''}.`,
        e.step * stepS,
        e.b || undefined,
      ),
    )
  if (when.kind !== 'sees' && when.kind !== 'hears')
    return told.length > 0 ? told : [reason('What it waits for has not happened.')]
  const whom = agents.filter((a) => isMeant(recorded, agent.factionId, a, when.whom))
  if (whom.length === 0) return [...told, reason('There was nobody it could be about.')]
  const tallies = whom.map((target) =>
    tally(recorded, key, target.key, when.kind === 'hears', when.withinM ?? Infinity),
  )
  for (const of of tallies.sort((a, b) => a.nearestM - b.nearestM).slice(0, 3)) {
    if (of.looks === 0) continue
    const name = nameIn(recorded, of.target)
    told.push(
      reason(
        `${name} came nearest at ${s1(of.nearestS)}: ${m1(of.nearestM)}, and ${MISS_WORDS[of.then]}.`,
        of.nearestS,
        of.target,
      ),
    )
    for (const [miss, n] of Object.entries(of.misses) as [Miss, { n: number; atS: number }][])
      if (miss !== of.then)
        told.push(reason(`For ${s1(n.n / LOOKS_HZ)} ${name} ${MISS_WORDS[miss]}.`, n.atS, of.target))
  }
  return told.length > 0 ? told : [reason('They were never there at the same time.')]
}

function isMeant(
  { level }: Recorded,
  own: string | null,
  other: Recorded['agents'][number],
  whom: 'hostile' | 'stand-in' | 'anyone',
): boolean {
  if (whom === 'stand-in') return other.standIn
  if (other.factionId === own && !other.standIn) return false
  if (whom === 'anyone') return true
  const [a, b] = [level.factions[own ?? ''], level.factions[other.factionId ?? '']]
  return a !== undefined && b !== undefined && (a.hostileTo.includes(other.factionId!) || b.hostileTo.includes(own!))
}

/** How it stood at every look, counted; and how when they were nearest. */
function tally(recorded: Recorded, key: number, target: number, byEar: boolean, withinM: number) {
  const { level, agents } = recorded
  const lookers = new Lookers(recorded, [], new Set([key]))
  const body = level.profiles[agents.find((a) => a.key === target)?.profileId ?? '']
  const heightM = body?.heightM ?? 1.75
  const misses: Partial<Record<Miss, { n: number; atS: number }>> = {}
  const out = { target, looks: 0, nearestM: Infinity, nearestS: 0, then: 'too-far' as Miss, misses }
  for (let k = 0; k < recorded.frameCount; k += FRAMES_PER_SECOND / LOOKS_HZ) {
    const frame = recorded.frame(k)
    let [p, q] = [-1, -1]
    for (let r = 0; r < frame.length; r += FRAME_FIELDS) {
      if (frame[r] === key) p = r
      else if (frame[r] === target) q = r
    }
    const looker = p < 0 ? undefined : lookers.at(frame, p)
    if (!looker || q < 0) continue
    const at = place(frame, q)
    const from = place(frame, p)
    const m = exact.hypot(exact.hypot(at[0] - from[0], at[1] - from[1]), at[2] - from[2])
    const speed = frame[q + FIELD.speed] / 1000
    const miss = byEar
      ? heardOrNot(lookers.look(frame, p, looker), at, heightM, speed)
      : seenOrNot(lookers.look(frame, p, looker), at, heightM, m > looker.sightM)
    const how: Miss = miss === 'noticed' && m > withinM ? 'not-near-enough' : miss
    const kept = misses[how]
    misses[how] = { n: (kept?.n ?? 0) + 1, atS: kept?.atS ?? k / FRAMES_PER_SECOND }
    out.looks++
    if (m < out.nearestM) Object.assign(out, { nearestM: m, nearestS: k / FRAMES_PER_SECOND, then: how })
  }
  return out
}

function seenOrNot(look: Look, at: Point3, heightM: number, tooFar: boolean): Miss {
  if (look.sees(...at, heightM)) return 'noticed'
  if (tooFar) return 'too-far'
  return look.clear(...at, heightM) ? 'looked-away' : 'behind'
}

const heardOrNot = (look: Look, at: Point3, heightM: number, mps: number): Miss =>
  look.hearsFrom(...at, heightM) <= loudnessAt(mps) ? 'noticed' : 'too-far'
