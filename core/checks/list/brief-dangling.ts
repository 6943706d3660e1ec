import { missingIn, pointsIn, stepKind, type BriefStep, type Collection } from '@tidytrail/core/level'
import { distance2, type Point3 } from '@tidytrail/core/geometry'
import type { Check, Look } from '../check'
import { toldBy, zoneOfSquad } from '../told-by'

export const briefDangling: Check = {
  id: 'brief.dangling',
  stage: 'cast',
  severity: 'blocker',
  sentence: 'A step of a brief names no route, place, zone or anybody, though it is about one.',
  each: 'briefs',
  run(look, id) {
    const brief = look.level.thing('briefs', id)!
    for (const stepId of brief.order) {
      const step = brief.steps[stepId]
      const kind = stepKind(step)
      const [ref] = missingIn(step)
      if (!ref) continue
      const { subjects, at, who } = toldBy(look, id)
      const nearest = nearestOf(look, ref.to as Collection, at)
      const message = `${who} is told to ${lower(kind.word)}, but none is chosen.`
      if (!nearest) return [{ subjects, at, message }]
      const named = { ...step, [ref.path]: nearest.id } as BriefStep
      const changes = { [id]: { steps: { ...brief.steps, [stepId]: named } } }
      const label = `${kind.word.split(' ')[0]} ${LEADS[ref.to] ?? ''}${nearest.name}`
      return [{ subjects, at, message, fix: { label, edit: 'changeThings', args: { in: 'briefs', changes } } }]
    }
    return [...oneOfNothing(look, id), ...unfilled(look, id), ...ofSquad(look, id), ...aboutNobody(look, id)].slice(
      0,
      1,
    )
  },
}

/** A step that is one of several, of which one names nothing. */
function oneOfNothing(look: Look, id: string): ReturnType<Check['run']> {
  const brief = look.level.thing('briefs', id)!
  for (const stepId of brief.order) {
    const step = brief.steps[stepId]
    if (step.kind !== 'follow-route' && step.kind !== 'wander') continue
    const names = (o: object) => Object.values(o).some((v) => typeof v === 'string')
    const k = step.others.findIndex((o) => !names(o))
    if (k < 0) continue
    const { subjects, at, who } = toldBy(look, id)
    const left = { ...step, others: (step.others as object[]).filter((_, q) => q !== k) } as BriefStep
    return [
      {
        subjects,
        at,
        message: `${who} is told to ${lower(stepKind(step).word)} that is one of ${step.others.length + 1}, and number ${k + 2} of them is not chosen.`,
        fix: {
          label: 'Take that one away',
          edit: 'changeThings',
          args: { in: 'briefs', changes: { [id]: { steps: { ...brief.steps, [stepId]: left } } } },
        },
      },
    ]
  }
  return []
}

/** A blank somebody who is told by the brief has not filled. */
function unfilled(look: Look, id: string): ReturnType<Check['run']> {
  const brief = look.level.thing('briefs', id)!
  const used = new Set(brief.order.flatMap((s) => [brief.steps[s].blankId, brief.steps[s].gaitBlankId]))
  for (const blank of brief.blanks) {
    if (!used.has(blank.id) || blank.kind === 'gait') continue
    const key = blank.kind === 'route' ? 'routeId' : 'zoneId'
    for (const [spawnerId, spawner] of toldBy(look, id).spawners) {
      if (spawner.fills.find((f) => f.blankId === blank.id)?.[key]) continue
      const nearest = nearestOf(look, blank.kind === 'route' ? 'routes' : 'zones', spawner.at)
      const message = `${spawner.name} does not say which ${blank.kind} “${blank.name}” is, and ${brief.name} asks for it.`
      const subjects = [id, spawnerId]
      if (!nearest) return [{ subjects, at: spawner.at, message }]
      const fill = { blankId: blank.id, routeId: null, zoneId: null, gait: null, [key]: nearest.id }
      const fills = [...spawner.fills.filter((f) => f.blankId !== blank.id), fill]
      return [
        {
          subjects,
          at: spawner.at,
          message,
          fix: {
            label: `Let it be ${nearest.name}`,
            edit: 'changeThings',
            args: { in: 'spawners', changes: { [spawnerId]: { fills } } },
          },
        },
      ]
    }
  }
  return []
}

/** A step in the zone of a squad, told to somebody who has none. */
function ofSquad(look: Look, id: string): ReturnType<Check['run']> {
  const brief = look.level.thing('briefs', id)!
  const stepId = brief.order.find((s) => needsSquad(brief.steps[s]))
  if (!stepId) return []
  const { subjects, at, spawners } = toldBy(look, id)
  const without = spawners.filter(([, s]) => zoneOfSquad(look, s) === null)
  if (without.length === 0) return []
  const step = brief.steps[stepId]
  const names = without.map(([, s]) => s.name).join(', ')
  const message = `${names} is told to ${lower(stepKind(step).word)} of a squad, and has no squad with a zone.`
  const nearest = nearestOf(look, 'zones', at)
  if (!nearest) return [{ subjects, at, message }]
  const changes = { [id]: { steps: { ...brief.steps, [stepId]: { ...step, zoneId: nearest.id } as BriefStep } } }
  const label = `Let it be ${nearest.name}`
  return [{ subjects, at, message, fix: { label, edit: 'changeThings', args: { in: 'briefs', changes } } }]
}

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)

const needsSquad = (step: BriefStep): boolean => {
  if (step.blankId !== null) return false
  if (step.kind === 'wander' || step.kind === 'hold') return step.zoneId === null
  return 'to' in step && step.to === 'zone' && step.zoneId === null
}

/** A step about whoever was perceived, where nothing says that anybody was. */
function aboutNobody(look: Look, id: string): ReturnType<Check['run']> {
  const brief = look.level.thing('briefs', id)!
  const perceiving = new Set(brief.whens.filter((w) => PERCEIVING.has(w.kind)).map((w) => w.id))
  const stepId = brief.order.find((s) => {
    const { kind, whenId } = brief.steps[s]
    return (kind === 'chase' || kind === 'search') && (whenId === null || !perceiving.has(whenId))
  })
  if (!stepId) return []
  const { subjects, at, who } = toldBy(look, id)
  const { [stepId]: step, ...steps } = brief.steps
  const order = brief.order.filter((s) => s !== stepId)
  return [
    {
      subjects,
      at,
      message: `${who} is told to ${lower(stepKind(step).word)}, but nothing says whom: that belongs under “If you see someone”.`,
      fix: {
        label: 'Take that step away',
        edit: 'changeThings',
        args: { in: 'briefs', changes: { [id]: { steps, order } } },
      },
    },
  ]
}
const PERCEIVING: ReadonlySet<string> = new Set(['sees', 'hears', 'touched', 'zone-entered'])

/** What stands between what is done and the name of what it is done with. */
const LEADS: Readonly<Record<string, string>> = {
  passages: '',
  signals: '',
  markers: 'to ',
  posts: 'to ',
  zones: 'in ',
  spawners: 'one of ',
}

/** The thing of a collection whose first place is nearest to a place, that can be named by a step. */
function nearestOf(look: Look, collection: Collection, at: Point3): { id: string; name: string } | undefined {
  const waypoints = look.level.all('waypoints')
  const candidates = Object.entries(look.level.all(collection)).flatMap(([id, thing]) => {
    if (collection !== 'routes') {
      const [first] = pointsIn(collection, thing)
      return first ? [{ id, name: (thing as { name: string }).name, away: distance2(first, at) }] : []
    }
    const route = look.level.thing('routes', id)!
    if (route.kind === 'network' || route.order.length < 2) return []
    const start = waypoints[route.stops[route.order[0]].waypointId].at
    return [{ id, name: route.name, away: distance2(start, at) }]
  })
  return candidates.sort((a, b) => a.away - b.away)[0]
}
