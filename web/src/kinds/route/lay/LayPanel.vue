<script setup lang="ts">
import { boxOf, offsetRing, ringArea, type Point2, type Point3 } from '@tidytrail/core/geometry'
import { footprint } from '@tidytrail/core/ground'
import {
  changeThings,
  namesByPattern,
  nameOf,
  reshape,
  reshaped,
  ROUTE_KINDS,
  type Level,
  type Route,
  type RouteKind,
  type RouteSketch,
} from '@tidytrail/core/level'
import { alongRing, alongWay, besideRoute, sweepArea } from '@tidytrail/core/network'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useLevelStore } from '../../../stores/level'
import { useSheetStore, type LayingId } from '../../../stores/sheet'
import { useSurveyStore } from '../../../stores/survey'
import { KIND_WORDS } from '../draw-options'
import { count } from '../../../ui/figures'
import NumberField from '../../../ui/NumberField.vue'
import CoordinatesForm from './CoordinatesForm.vue'
import { layRoutes, onFloor } from './sketches'

/** Lays and reshapes routes by figures, with what would come of it drawn on the map before it is done. */
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const TITLES: Record<LayingId, string> = {
  list: 'Routes from a list of places',
  along: 'A route along an edge',
  way: 'A route along a found way',
  sweep: 'A sweep over an area',
  beside: 'A copy beside a route',
  repeat: 'Copies in a row',
  reshape: 'Turn, scale, mirror',
  names: 'Name the stops',
}
const how = computed(() => sheet.laying!)
const kind = ref<RouteKind>('patrol')
const distanceM = ref(2)
const toleranceM = ref(0.2)
const seesM = ref(5)
const pattern = ref<'lanes' | 'rings'>('lanes')
const angleDeg = ref<number | null>(null)
const back = ref(false)
const copies = ref(3)
const east = ref(5)
const north = ref(0)
const turnDeg = ref(0)
const percent = ref(100)
const mirror = ref(false)
const words = ref('Stop ##')
const sketches = shallowRef<readonly RouteSketch[]>([])
const error = ref('')
/** What is to be known of what would be laid. */
const remark = ref('')

/** The outlines that are chosen: solids, covers, reach areas, zones. */
const rings = computed(() =>
  sheet.selected.flatMap((id): { id: string; ring: Point2[]; z: number | undefined }[] => {
    const { solids, covers, reachAreas, zones } = levels.doc
    if (solids[id]) return [{ id, ring: footprint(solids[id]) as Point2[], z: solids[id].baseM }]
    const flat = covers[id] ?? reachAreas[id] ?? zones[id]
    return flat ? [{ id, ring: flat.ring as Point2[], z: undefined }] : []
  }),
)
const routes = computed(() =>
  sheet.selected.flatMap((id) => (levels.doc.routes[id] ? [{ id, route: levels.doc.routes[id] }] : [])),
)
const placesOf = (level: Level, route: Route) =>
  route.order.map((s) => level.waypoints[route.stops[s].waypointId].at as Point3)
/** The waypoints the choice stands for: of chosen stops, or of whole routes. */
const waypointIds = computed(() => {
  const ids = new Set<string>()
  for (const id of sheet.selected) {
    if (levels.doc.waypoints[id]) ids.add(id)
    for (const [routeId, r] of Object.entries(levels.doc.routes)) {
      const stops = routeId === id ? r.order : r.stops[id] ? [id] : []
      for (const s of stops) ids.add(r.stops[s].waypointId)
    }
  }
  return [...ids]
})
/** Chosen places in the order they were chosen, to find a way through. */
const chosenPlaces = computed((): Point3[] =>
  sheet.selected.flatMap((id): Point3[] => {
    const { waypoints, spawners, markers, posts, routes: all } = levels.doc
    const place = waypoints[id] ?? spawners[id] ?? markers[id] ?? posts[id]
    if (place) return [place.at]
    const route = Object.values(all).find((r) => r.stops[id])
    return route ? [waypoints[route.stops[id].waypointId].at] : []
  }),
)
const NEEDS: Partial<Record<LayingId, { ok: () => boolean; say: string }>> = {
  along: { ok: () => rings.value.length > 0, say: 'Choose a solid, a cover, a reach area or a zone on the map.' },
  sweep: {
    ok: () => rings.value.length > 0,
    say: 'Choose the area to sweep: a cover, a reach area, a zone or a solid.',
  },
  way: {
    ok: () => chosenPlaces.value.length > 1,
    say: 'Choose two or more stops, spawners or markers, in the order of the way.',
  },
  beside: { ok: () => routes.value.length > 0, say: 'Choose a route.' },
  repeat: { ok: () => routes.value.length > 0, say: 'Choose a route.' },
  reshape: { ok: () => waypointIds.value.length > 0, say: 'Choose routes or stops.' },
  names: { ok: () => routes.value.length > 0, say: 'Choose a route.' },
}
const need = computed(() => {
  const wanted = NEEDS[how.value]
  return wanted && !wanted.ok() ? wanted.say : ''
})

const ringSketch = (ring: readonly Point2[], z: number | undefined, closed: boolean): RouteSketch => ({
  kind: kind.value,
  closed,
  places: ring.map((p) => ({ at: onFloor(p, z) })),
})

let asked = 0
async function work(): Promise<void> {
  const mine = ++asked
  error.value = remark.value = ''
  if (how.value === 'list') return
  if (need.value) return void (sketches.value = [])
  try {
    const made = await MAKERS[how.value]()
    if (mine === asked) sketches.value = made
  } catch (e) {
    if (mine !== asked) return
    sketches.value = []
    error.value = (e as Error).message
  }
}

const MAKERS: Record<Exclude<LayingId, 'list'>, () => RouteSketch[] | Promise<RouteSketch[]>> = {
  along: () =>
    rings.value.map(({ id, ring, z }) => {
      const line = alongRing(ring, distanceM.value, toleranceM.value)
      if (!line) throw new Error(`There is no room ${-distanceM.value} m inside ${nameOf(levels.doc, id)}.`)
      return { ...ringSketch(line, z, true), name: `Round ${nameOf(levels.doc, id)}` }
    }),
  sweep: () =>
    rings.value.map(({ id, ring }) => {
      const angleRad = angleDeg.value === null ? undefined : (angleDeg.value * Math.PI) / 180
      const way = sweepArea({ ring, seesM: seesM.value, how: pattern.value, angleRad })
      return { ...ringSketch(way, undefined, false), name: `Sweep of ${nameOf(levels.doc, id)}` }
    }),
  way: async () => {
    const line: Point3[] = []
    for (let i = 1; i < chosenPlaces.value.length; i++) {
      const answer = await survey.path(chosenPlaces.value[i - 1], chosenPlaces.value[i])
      if (!answer?.path.found)
        throw new Error(`There is no way from place ${i} to place ${i + 1}: ${answer?.why ?? 'nothing is known yet'}.`)
      const part = alongWay(answer.path.line, answer.path.uses, toleranceM.value)
      line.push(...(line.length > 0 ? part.slice(1) : part))
    }
    return [{ kind: kind.value, places: line.map((at) => ({ at })) }]
  },
  beside: () => {
    const remarks: string[] = []
    const made = routes.value.map(({ route }) => {
      const { stops, lost, cut } = besideRoute(route, levels.doc.waypoints, distanceM.value)
      const where = ([x, y]: readonly number[]) => `${x.toFixed(1)} ${y.toFixed(1)}`
      const m = `${Math.abs(distanceM.value)} m`
      if (lost.length > 0)
        remarks.push(
          `${route.name} bends too tightly for ${m} near ${lost.slice(0, 3).map(where).join(' and ')}: the distance is not kept there.`,
        )
      if (cut.length > 0)
        remarks.push(
          `A bend of ${route.name} is tighter than ${m}: its loop is cut near ${cut.slice(0, 3).map(where).join(' and ')}.`,
        )
      const order = back.value ? [...stops].reverse() : stops
      return {
        kind: route.kind,
        like: route,
        name: `${route.name} ${back.value ? 'back' : 'beside'}`,
        places: order.map(({ at }) => ({ at: onFloor(at, at[2]) })),
        stops: order.map(({ sharp }) => ({ sharp })),
      }
    })
    remark.value = remarks.join(' ')
    return made
  },
  repeat: () =>
    Array.from({ length: copies.value }, (_, k) => k + 1).flatMap((k) =>
      routes.value.map(({ route }) => ({
        kind: route.kind,
        like: route,
        name: route.name,
        stops: route.order.map((s) => route.stops[s]),
        places: placesOf(levels.doc, route).map(([x, y, z]) => ({
          at: onFloor([x + k * east.value, y + k * north.value], z),
        })),
      })),
    ),
  reshape: () => {
    const { places } = reshapePlan()
    return routes.value.map(({ route }) => ({
      kind: route.kind,
      closed: route.travel === 'round',
      places: route.order.map((s) => ({ at: places[route.stops[s].waypointId] })),
    }))
  },
  names: () => [],
}

function reshapePlan() {
  const box = boxOf(waypointIds.value.map((id) => levels.doc.waypoints[id].at))
  const about: [number, number] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  const to = { about, turnRad: (turnDeg.value * Math.PI) / 180, scale: percent.value / 100, mirror: mirror.value }
  const plan = reshaped(levels.doc, waypointIds.value, to)
  for (const [id, at] of Object.entries(plan.places)) plan.places[id] = [...onFloor(at, levels.doc.waypoints[id].at[2])]
  return plan
}

watch(
  [
    how,
    rings,
    chosenPlaces,
    routes,
    waypointIds,
    kind,
    distanceM,
    toleranceM,
    seesM,
    pattern,
    angleDeg,
    back,
    copies,
    east,
    north,
    turnDeg,
    percent,
    mirror,
  ],
  () => void work(),
  { immediate: true },
)
watch(
  sketches,
  (list) =>
    (sheet.sketch = list.map((s) => ({
      line: s.places.map((p) => p.at),
      closed: s.closed,
      loose: s.kind === 'network',
    }))),
  {
    immediate: true,
  },
)
onBeforeUnmount(() => (sheet.sketch = []))

const stops = computed(() => sketches.value.reduce((sum, s) => sum + s.places.length, 0))
const ready = computed(() => !need.value && !error.value && (how.value === 'names' || stops.value > 1))
const button = computed(() => {
  if (how.value === 'names') return 'Name them'
  if (how.value === 'reshape') return `Move ${count(waypointIds.value.length, 'waypoint')}`
  const n = sketches.value.length
  const word = kind.value === 'network' && how.value === 'list' ? 'node' : 'stop'
  return n > 1 ? `Lay ${n} routes of ${stops.value} stops` : `Lay ${count(stops.value, word)}`
})

function apply() {
  if (how.value === 'names') {
    const changes: Record<string, { name: string }> = {}
    for (const { route } of routes.value) {
      const ids = [...new Set(route.order.map((s) => route.stops[s].waypointId))]
      const names = namesByPattern(words.value, ids.length)
      ids.forEach((id, i) => (changes[id] = { name: names[i] }))
    }
    levels.perform(changeThings, { in: 'waypoints', changes })
  } else if (how.value === 'reshape') levels.perform(reshape, { ...reshapePlan(), word: 'Reshape' })
  else layRoutes(sketches.value)
  sheet.laying = undefined
}
const area = computed(() => rings.value.reduce((sum, r) => sum + Math.abs(ringArea(r.ring)), 0))
const room = computed(() => rings.value.every((r) => offsetRing(r.ring, -seesM.value).length > 0))
</script>

<template>
  <section class="panel flex max-h-full w-[282px] flex-col" aria-label="Lay">
    <header class="px-3 pt-2.5 pb-1">
      <p class="text-[13px] font-bold text-pine">By figures</p>
      <h2 class="text-[19px] leading-tight">{{ TITLES[how] }}</h2>
    </header>
    <div class="min-h-0 overflow-y-auto px-3 pb-3">
      <p v-if="need" class="text-[13px] text-faded">{{ need }}</p>
      <label v-if="['list', 'along', 'way', 'sweep'].includes(how)" class="row mt-1 justify-between text-[13px]">
        <span class="text-faded">kind of route</span>
        <select v-model="kind" class="field w-[120px]! py-0!" aria-label="Kind of route">
          <option v-for="k in ROUTE_KINDS.filter((r) => r !== 'network' || how === 'list')" :key="k" :value="k">
            {{ KIND_WORDS[k] }}
          </option>
        </select>
      </label>
      <CoordinatesForm v-if="how === 'list'" class="mt-1" :kind="kind" @sketched="sketches = $event" />
      <div class="mt-1.5 grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          v-if="how === 'along' || how === 'beside'"
          :label="how === 'along' ? 'outside by' : 'to the left by'"
          unit="m"
          :value="distanceM"
          @change="(v) => (distanceM = v)"
        />
        <NumberField
          v-if="how === 'along' || how === 'way'"
          label="true to"
          unit="m"
          :min="0.01"
          :value="toleranceM"
          @change="(v) => (toleranceM = v)"
        />
        <template v-if="how === 'sweep'">
          <NumberField label="sees to either side" unit="m" :min="0.5" :value="seesM" @change="(v) => (seesM = v)" />
          <label class="block">
            <span class="label">goes</span>
            <select v-model="pattern" class="field" aria-label="How it goes">
              <option value="lanes">to and fro</option>
              <option value="rings">round and inwards</option>
            </select>
          </label>
          <NumberField
            v-if="pattern === 'lanes'"
            label="lanes lie at"
            unit="°"
            :value="angleDeg ?? 0"
            :none="angleDeg === null ? 'longest' : undefined"
            @change="(v) => (angleDeg = v)"
          />
        </template>
        <template v-if="how === 'repeat'">
          <NumberField
            label="copies"
            :min="1"
            :max="50"
            :digits="0"
            :value="copies"
            @change="(v) => (copies = Math.round(v))"
          />
          <span />
          <NumberField label="each east by" unit="m" :value="east" @change="(v) => (east = v)" />
          <NumberField label="each north by" unit="m" :value="north" @change="(v) => (north = v)" />
        </template>
        <template v-if="how === 'reshape'">
          <NumberField label="turn left by" unit="°" :step="1" :value="turnDeg" @change="(v) => (turnDeg = v)" />
          <NumberField
            label="scale to"
            unit="%"
            :step="1"
            :min="1"
            :max="10000"
            :value="percent"
            @change="(v) => (percent = v)"
          />
        </template>
      </div>
      <label v-if="how === 'reshape'" class="row mt-1.5 gap-1! text-[13px]"
        ><input v-model="mirror" type="checkbox" class="accent-pine" /> mirror west for east</label
      >
      <label v-if="how === 'beside'" class="row mt-1.5 gap-1! text-[13px]"
        ><input v-model="back" type="checkbox" class="accent-pine" /> travelled the other way</label
      >
      <label v-if="how === 'names'" class="mt-1 block">
        <span class="label">a pattern; # stands for the number, in the order of travel</span>
        <input v-model="words" class="field" aria-label="Pattern of the names" maxlength="100" />
        <span class="text-[12.5px] text-faded">{{ namesByPattern(words, 3).join(', ') }} …</span>
      </label>
      <p v-if="how === 'sweep' && !need && area > 0 && !error" class="mt-1.5 text-[12.5px] text-faded">
        {{ Math.round(area).toLocaleString('en') }} m² are seen from the way{{
          room ? '' : '; one sees from side to side'
        }}.
      </p>
      <p v-if="error" class="mt-2 border border-alarm bg-alarm/8 px-2 py-1 text-[13px]" role="alert">{{ error }}</p>
      <p v-if="remark" class="mt-2 border border-ochre bg-ochre/8 px-2 py-1 text-[13px]" role="status">{{ remark }}</p>
    </div>
    <footer class="flex gap-2 border-t border-rule px-3 py-2">
      <button class="btn btn-main" :disabled="!ready" @click="apply">{{ button }}</button>
      <button class="btn" @click="sheet.laying = undefined">Close</button>
    </footer>
  </section>
</template>
