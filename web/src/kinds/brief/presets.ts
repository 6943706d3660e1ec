import { newStep, newWhen, type Brief, type BriefStep, type BriefWhen } from '@tidytrail/core/level'

type Written = Pick<Brief, 'steps' | 'order' | 'whens'>
interface Sentence {
  readonly when: (id: string) => BriefWhen
  readonly steps: readonly BriefStep[]
}

/** A brief to begin with. */
interface Preset {
  readonly name: string
  readonly says: string
  make(newId: () => string): Written
}

const written =
  (steps: readonly BriefStep[], sentences: readonly Sentence[] = []) =>
  (newId: () => string): Written => {
    const all: [string, BriefStep][] = steps.map((s) => [newId(), s])
    const whens = sentences.map(({ when, steps }) => {
      const id = newId()
      for (const s of steps) all.push([newId(), { ...s, whenId: id } as BriefStep])
      return when(id)
    })
    return { steps: Object.fromEntries(all), order: all.map(([id]) => id), whens }
  }

const chasing: Sentence = {
  when: (id) => newWhen('sees', id),
  steps: [newStep('chase', { loseS: 6 }), newStep('search', { forS: 20 })],
}

/** Briefs of our own to begin with; what they are about is chosen after. */
export const PRESETS: readonly Preset[] = [
  {
    name: 'Patrol',
    says: 'Follows a route from the nearest stop; goes after whom it sees, searches, and takes its route up again.',
    make: written([newStep('follow-route', { from: 'stop' })], [chasing]),
  },
  {
    name: 'Sentry',
    says: 'Holds a post of its squad; leaves it for whom it sees, and comes back.',
    make: written([newStep('hold')], [chasing]),
  },
  { name: 'Roamer', says: 'Wanders in a zone.', make: written([newStep('wander')]) },
  {
    name: 'Townsperson',
    says: 'Walks from place to place along lanes for walking, over crossings.',
    make: written([newStep('stroll')]),
  },
  { name: 'Follower', says: 'Stays near somebody.', make: written([newStep('shadow', { nearM: 1.5, farM: 4 })]) },
  {
    name: 'Hunter',
    says: 'Wanders until it hears or sees somebody, and goes after them.',
    make: written(
      [newStep('wander')],
      [chasing, { when: (id) => newWhen('hears', id), steps: [newStep('search', { forS: 12, radiusM: 5 })] }],
    ),
  },
  {
    name: 'Carter',
    says: 'Boards a cart, drives a route, gets out and begins again.',
    make: written([
      newStep('board'),
      newStep('follow-route'),
      newStep('get-out'),
      newStep('pause', { forS: 10 }),
      newStep('again'),
    ]),
  },
  {
    name: 'Ferryman',
    says: 'Boards a boat, crosses and comes back without end.',
    make: written([
      newStep('board'),
      newStep('follow-route', { rounds: 1 }),
      newStep('pause', { forS: 15 }),
      newStep('again'),
    ]),
  },
]
