import { pointAlong, type Point3 } from '@tidytrail/core/geometry'
import type { Level } from '@tidytrail/core/level'
import { legsOf, profilesOfRoute } from '@tidytrail/core/network'
import { useRafFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { clock } from '../ui/figures'
import { useLevelStore } from './level'
import { useSurveyStore } from './survey'

/** Faster than life, so that one sees the round in moments. */
export const TRAVEL_TIMES = 4

/** A drop that runs along a route at its speed, without a rehearsal. */
export const useTravelStore = defineStore('travel', () => {
  const survey = useSurveyStore()
  const levels = useLevelStore()
  const routeId = ref<string>()
  /** Seconds since it set out. */
  const at = ref(0)
  const { pause, resume } = useRafFn(
    ({ delta }) => {
      const { level } = levels
      if (!routeId.value || !level?.routes[routeId.value]) return stop()
      at.value += (Math.min(100, delta) / 1000) * TRAVEL_TIMES
    },
    { immediate: false },
  )

  function start(id: string): void {
    routeId.value = id
    at.value = 0
    resume()
  }
  function stop(): void {
    routeId.value = undefined
    pause()
  }

  /** Where the drop is now: walking a leg or pausing at a stop; it begins again when it has come to the end. */
  function moment(level: Level): { at: Point3; headingRad: number; text: string } | undefined {
    const route = routeId.value ? level.routes[routeId.value] : undefined
    const paths = routeId.value ? survey.paths.get(routeId.value)?.paths : undefined
    if (!route || !paths) return undefined
    const profile = level.profiles[profilesOfRoute(level, routeId.value!)[0] ?? '']
    if (!profile) return undefined
    const legs = legsOf(route)
    const there = legs.map((leg, i) => ({ from: leg.from, to: leg.to, path: paths[i], back: false }))
    const trip =
      route.travel === 'there-and-back'
        ? [...there, ...there.map((l) => ({ from: l.to, to: l.from, path: l.path, back: true })).reverse()]
        : there
    const spans = trip.flatMap(({ from, to, path, back }) => {
      if (!path?.found) return []
      const stop = route.stops[route.order[to]]
      const own = stop.gait === null ? undefined : profile.gaits[stop.gait]
      const speed = Math.min(own ?? profile.gaits[profile.gait], route.speedLimitMps ?? Infinity)
      const line = back ? [...path.line].reverse() : path.line
      const walkS = path.lengthM / speed + path.uses.reduce((sum, u) => sum + u.takesS, 0)
      const pauseS = ((stop.pause.minS + stop.pause.maxS) / 2) * stop.pauseShare
      return [{ from, to, line, walkS, pauseS, lengthM: path.lengthM }]
    })
    const total = spans.reduce((sum, s) => sum + s.walkS + s.pauseS, 0)
    if (total === 0) return undefined
    let left = at.value % total
    for (const span of spans) {
      const heading = (m: number) => {
        const [a, b] = [pointAlong(span.line, Math.max(0, m - 0.3)), pointAlong(span.line, m + 0.3)]
        return Math.atan2(b[1] - a[1], b[0] - a[0])
      }
      if (left < span.walkS) {
        const m = (left / span.walkS) * span.lengthM
        return { at: pointAlong(span.line, m), headingRad: heading(m), text: clock(at.value % total) }
      }
      left -= span.walkS
      if (left < span.pauseS)
        return {
          at: pointAlong(span.line, span.lengthM),
          headingRad: heading(span.lengthM),
          text: `${clock(at.value % total)}, pauses at ${span.to + 1}`,
        }
      left -= span.pauseS
    }
    return undefined
  }

  return { routeId, at, start, stop, moment }
})
