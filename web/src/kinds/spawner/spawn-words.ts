import { nameOf, type Level, type Spawner } from '@tidytrail/core/level'
import { seconds } from '../../ui/figures'

/** How much a stream brings, in a sentence. */
function streamWords({ laneIds, perH, hours, headways, mostAlive, untilS, firstAfterS }: Spawner): string {
  if (laneIds.length === 0) return 'No lane is chosen for it to come onto.'
  const round = (n: number) => Math.round(n).toLocaleString('en')
  const all = laneIds.length > 1 ? `, ${round(perH * laneIds.length)} in all` : ''
  const each = laneIds.length > 1 ? `onto each of ${laneIds.length} lanes` : 'onto its lane'
  const later = [...hours]
    .sort((a, b) => a.fromS - b.fromS)
    .map((h) => `, from ${Math.round(h.fromS / 60)} min on ${round(h.perH)}`)
    .join('')
  const spread = headways === 'even' ? 'one after the other evenly' : 'as chance has it'
  const first = firstAfterS > 0 ? `, the first after ${seconds(firstAfterS)}` : ''
  const most = mostAlive !== null ? `, ${round(mostAlive)} alive at most` : ''
  const until = untilS === null ? '' : `, until ${seconds(untilS)}`
  return `${round(perH)} an hour ${each}${all}${later}, ${spread}${first}${most}${until}.`
}

/** How many a spawner sends and when, in a sentence or two. */
export function spawnWords(level: Level, s: Spawner): string {
  if (s.where === 'lanes') return streamWords(s)
  const { players } = level.settings
  const filled = Math.max(0, s.count - players)
  const many = s.alive === 'fill' ? filled : s.count
  const who = many === 1 ? 'One agent' : `${many} agents`
  const thing = (id: string | null, otherwise: string) => (id ? nameOf(level, id) : otherwise)
  const begin = {
    start: '',
    entered: ` once ${thing(s.triggerFactionId, 'somebody')} is in ${thing(s.triggerZoneId, 'a zone that is not chosen yet')}`,
    emptied: ` once ${thing(s.triggerFactionId, 'nobody')}${s.triggerFactionId ? ' is gone from' : ' is left in'} ${thing(s.triggerZoneId, 'a zone that is not chosen yet')}`,
    'used-up': ` once ${thing(s.triggerSpawnerId, 'a spawner that is not chosen yet')} has sent all it has`,
    left: ` once ${s.triggerSpawnerId ? `someone of ${thing(s.triggerSpawnerId, '')}` : 'somebody'} has left`,
  }[s.begins]
  const first = s.firstAfterS > 0 || !begin ? ` after ${seconds(s.firstAfterS)}` : ' at once'
  const spread = s.spreadS > 0 ? `, give or take ${seconds(s.spreadS)}` : ''
  const at = s.atOnce > 1 ? `${s.atOnce} at a time` : 'one'
  const then = many > s.atOnce ? `, then ${at} every ${seconds(s.everyS)}${spread}` : ''
  const until = s.untilS === null ? '' : `, until ${seconds(s.untilS)}`
  if (s.alive === 'keep')
    return `${who} kept alive: the first${begin}${first}${then}; whoever leaves is replaced${until}.`
  const fill = s.alive === 'fill' ? ` (${s.count} places less ${players} ${players === 1 ? 'player' : 'players'})` : ''
  const most = s.mostAlive !== null && s.count > 1 ? `, ${s.mostAlive} alive at most` : ''
  return `${who}${fill}, the first${begin}${first}${then}${most}${until}.`
}
