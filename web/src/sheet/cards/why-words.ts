import type { Timer, Why } from '@tidytrail/core/insight'
import { filledStep, type BriefStep, type Level } from '@tidytrail/core/level'
import type { EventKind } from '@tidytrail/core/rehearsal'
import { stepSentence, whenSentence } from '../../kinds/brief/sentences'
import { seconds } from '../../ui/figures'

/** The sentence of a step of a brief, as the spawner that fills its blanks has it told; empty where there is none. */
export function sentenceOf(level: Level, why: Pick<Why, 'briefId'>, stepId: string | null, spawnerId: string): string {
  const brief = level.briefs[why.briefId ?? '']
  const step = brief?.steps[stepId ?? '']
  if (!brief || !step) return ''
  return stepSentence(level, filledStep(step, level.spawners[spawnerId]?.fills ?? []), brief)
}

/** The standing sentence somebody is in; empty where it is in none. */
export function standingOf(level: Level, { briefId, whenId }: Why): string {
  const when = level.briefs[briefId ?? '']?.whens.find((w) => w.id === whenId)
  return when ? whenSentence(level, when) : ''
}

type Told = Partial<{
  forS: number | null
  loseS: number
  rounds: number | null
  limitS: number | null
  turnS: number | null
}>

const ENDS: Partial<Record<BriefStep['kind'], (step: Told) => string>> = {
  'go-to': () => 'when it is there',
  flee: () => 'when it is there',
  board: () => 'once it is aboard',
  'use-object': () => 'once it has used it',
  'use-passage': () => 'on the other side',
  chase: ({ loseS }) => `when they are out of sight for ${seconds(loseS ?? 0)}`,
  shadow: () => 'when whom it keeps to leaves',
  'wait-signal': () => 'when the signal is given',
}

/** A route that leads one way has an end; round and round one goes for ever, unless rounds are counted. */
function routeEnds(level: Level, routeId: string | null, rounds: number | null): string | undefined {
  if (rounds) return `after ${rounds === 1 ? 'one round' : `${rounds} rounds`}`
  return level.routes[routeId ?? '']?.travel === 'one-way' ? 'at the end of the route' : undefined
}

/** What would end the step somebody is at, in words; empty where there is none. */
export function endsWhen(level: Level, { briefId, stepId }: Why): string {
  const step = level.briefs[briefId ?? '']?.steps[stepId ?? '']
  if (!step) return ''
  const told = step as Told
  const own = step.kind === 'follow-route' ? routeEnds(level, step.routeId, step.rounds) : ENDS[step.kind]?.(told)
  const ways = [
    own,
    told.forS ? `after ${seconds(told.forS)}` : undefined,
    told.limitS ? `after ${seconds(told.limitS)} in vain` : undefined,
  ]
  const words = ways.filter((w) => w !== undefined)
  return words.length > 0 ? `It ends ${words.join(', or ')}.` : 'It goes on without end.'
}

const TIMER_WORDS: Record<Timer['of'], string> = {
  pause: 'pauses for',
  step: 'this step for',
  waits: 'tries again in',
  memory: 'keeps them in mind for',
}
export const timerWords = ({ of, leftS }: Timer): string => `${TIMER_WORDS[of]} ${leftS.toFixed(1)} s more`

/** Lines of the story of an agent by what they are about. */
export const STORY_KINDS: Readonly<Record<string, { readonly name: string; readonly kinds: readonly EventKind[] }>> = {
  way: {
    name: 'its way',
    kinds: ['appeared', 'left', 'reached', 'missed', 'crossed', 'turned', 'finished', 'boarded', 'got-out'],
  },
  trouble: {
    name: 'trouble',
    kinds: [
      'blocked',
      'stuck',
      'free',
      'planned-anew',
      'stood-aside',
      'gave-up',
      'orbits',
      'strayed',
      'gait-missing',
      'ran-into',
      'missed',
    ],
  },
  senses: { name: 'senses', kinds: ['saw', 'lost', 'heard', 'noise', 'goes-for'] },
  brief: {
    name: 'its brief',
    kinds: [
      'began',
      'began-again',
      'interrupted',
      'took-up',
      'finished',
      'took-post',
      'gave-post',
      'signalled',
      'uses',
      'carried-over',
    ],
  },
}

/** Events that are marked on the map along the way of who is asked about: a sign, and whether it is trouble. */
export const MARKED: Partial<Record<EventKind, { readonly sign: string; readonly grave: boolean }>> = {
  saw: { sign: 's', grave: false },
  heard: { sign: 'h', grave: false },
  interrupted: { sign: '!', grave: false },
  'took-up': { sign: '↩', grave: false },
  stuck: { sign: '×', grave: true },
  'gave-up': { sign: '×', grave: true },
  blocked: { sign: '×', grave: true },
  'ran-into': { sign: '×', grave: true },
  strayed: { sign: '~', grave: true },
}
