<script setup lang="ts">
import { ROUTE_KINDS, setThings, type Route } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed, ref, watch } from 'vue'
import RegisterPanel, { type RegisterRow } from './RegisterPanel.vue'
import RegisterTabs from './RegisterTabs.vue'
import { useRegisterActions } from './register-actions'
import { requestZoom } from '../zoom'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { KIND_WORDS } from '../../kinds/route/draw-options'
import ActionMenu from '../../ui/ActionMenu.vue'
import { count, metres, TRAVEL_WORDS } from '../../ui/figures'
import { walkedLength } from '../../kinds/route/measures'

const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const actions = useRegisterActions(() => 'routes')
const tab = ref<'routes' | 'waypoints' | 'links'>('routes')

const lengthOf = (id: string) => walkedLength(survey.ways.get(id)?.ways ?? [])
const routes = computed(() => Object.entries(levels.doc.routes))
/** How many spawners send agents along each route. */
const followers = computed(() => {
  const counts = new Map<string, number>()
  for (const id of Object.keys(levels.doc.spawners)) {
    for (const r of new Set(routesOfSpawner(levels.doc, id))) if (r) counts.set(r, (counts.get(r) ?? 0) + 1)
  }
  return counts
})
const routeRows = computed<RegisterRow[]>(() =>
  routes.value.map(([id, r]: [string, Route]) => {
    const users = followers.value.get(id) ?? 0
    const what =
      r.kind === 'network'
        ? `${count(r.order.length, 'node')} · ${count(r.linkIds.length, 'link')}`
        : `${TRAVEL_WORDS[r.travel].toLowerCase()} · ${count(r.order.length, 'stop')} · ${metres(lengthOf(id))}`
    return {
      id,
      routeId: id,
      name: r.name || 'Unnamed',
      detail: what,
      hidden: r.hidden,
      locked: r.locked,
      size: lengthOf(id),
      users,
      kind: r.kind,
    }
  }),
)
const kinds = computed(() =>
  ROUTE_KINDS.filter((k) => routes.value.some(([, r]) => r.kind === k)).map((k) => ({
    id: k,
    name: `${KIND_WORDS[k]}s`,
  })),
)

/** Waypoints by their first stop, those of no route by themselves. */
const waypointRows = computed<RegisterRow[]>(() => {
  if (tab.value !== 'waypoints') return []
  const uses = new Map<string, { stopId: string; index: number; route: Route; n: number }>()
  for (const [, route] of routes.value) {
    route.order.forEach((stopId, index) => {
      const { waypointId } = route.stops[stopId]
      const known = uses.get(waypointId)
      if (known) known.n++
      else uses.set(waypointId, { stopId, index, route, n: 1 })
    })
  }
  return Object.entries(levels.doc.waypoints).map(([id, w]) => {
    const use = uses.get(id)
    const word = use?.route.kind === 'network' ? 'Node' : 'Stop'
    return {
      id: use?.stopId ?? id,
      name: w.name || (use ? `${word} ${use.index + 1} of ${use.route.name}` : 'Waypoint'),
      detail: use
        ? `${w.name ? `${word.toLowerCase()} ${use.index + 1} of ${use.route.name}` : `${w.at[0]}, ${w.at[1]}, ${w.at[2]} m`}${use.n > 1 ? ` · shared by ${use.n}` : ''}`
        : 'belongs to no route',
      size: w.at[2],
      users: use?.n ?? 0,
      kind: use?.route.kind ?? 'loose',
      locked: use?.route.locked,
    }
  })
})
const linkRows = computed<RegisterRow[]>(() => {
  if (tab.value !== 'links') return []
  const { waypoints, links } = levels.doc
  const names = new Map<string, string>()
  for (const [, r] of routes.value) r.order.forEach((s, i) => names.set(r.stops[s].waypointId, `${r.name} ${i + 1}`))
  const name = (id: string) => waypoints[id].name || names.get(id) || 'waypoint'
  return Object.entries(links).map(([id, l]) => {
    const [a, b] = [waypoints[l.fromId].at, waypoints[l.toId].at]
    const m = Math.hypot(a[0] - b[0], a[1] - b[1])
    return {
      id,
      name: `${name(l.fromId)} ${l.twoWay ? '–' : '→'} ${name(l.toId)}`,
      detail: `${l.twoWay ? 'both ways' : 'one way'} · ${metres(m)}`,
      size: m,
    }
  })
})
const rows = computed(() =>
  tab.value === 'routes' ? routeRows.value : tab.value === 'waypoints' ? waypointRows.value : linkRows.value,
)
const total = computed(() => routeRows.value.reduce((sum, r) => sum + r.size, 0))
const figure = computed(() =>
  tab.value === 'routes' && rows.value.length > 0
    ? `${rows.value.length}${total.value > 0 ? ` · ${metres(total.value)}` : ''}`
    : rows.value.length > 0
      ? String(rows.value.length)
      : '',
)
const tabs = computed(() => [
  { id: 'routes', name: 'Routes', count: routes.value.length },
  { id: 'waypoints', name: 'Waypoints', count: Object.keys(levels.doc.waypoints).length },
  { id: 'links', name: 'Links', count: Object.keys(levels.doc.links).length },
])
watch(
  () => sheet.chosen,
  (id) => {
    if (id && levels.doc.routes[id]) tab.value = 'routes'
  },
)
const on = computed(() =>
  tab.value === 'routes'
    ? actions
    : {
        rename: (id: string, name: string) => {
          const waypointId = levels.doc.waypoints[id]
            ? id
            : routes.value.map(([, r]) => r.stops[id]?.waypointId).find(Boolean)
          if (waypointId)
            levels.perform(setThings, { things: [{ in: 'waypoints', id: waypointId, set: { name } }], word: 'Rename' })
        },
        zoom: (id: string) => requestZoom(id),
      },
)
const items = [
  { name: 'From a list of places …', run: () => (sheet.laying = 'list' as const) },
  { name: 'Along an edge …', run: () => (sheet.laying = 'along' as const) },
  { name: 'Sweep an area …', run: () => (sheet.laying = 'sweep' as const) },
  { name: 'Along a found way …', run: () => (sheet.laying = 'way' as const) },
  { name: 'A network, node by node', run: () => void (sheet.toolId = 'link') },
]
const LINES: Record<string, { colour: string; dash?: string; width: number }> = {
  patrol: { colour: 'var(--rust)', dash: '7 3', width: 3 },
  lane: { colour: 'var(--lake)', width: 3 },
  circuit: { colour: 'var(--plum)', width: 5 },
  mission: { colour: 'var(--ochre)', dash: '2.5 3.5', width: 3.5 },
  network: { colour: 'var(--pine)', width: 1.5 },
  loose: { colour: 'var(--faded)', dash: '2 2', width: 1.5 },
}
</script>

<template>
  <RegisterPanel
    title="Routes"
    :figure="figure"
    :rows="rows"
    :plain="tab !== 'routes'"
    :kinds="tab === 'routes' ? kinds : undefined"
    :find="tab === 'routes' ? 'Find a route' : tab === 'waypoints' ? 'Find a waypoint' : 'Find a link'"
    :empty="
      tab === 'routes'
        ? 'No routes yet. Draw one: click stop by stop on the map, and click the first again to close the round.'
        : tab === 'waypoints'
          ? 'No waypoints yet.'
          : 'No links yet. Take the Link tool (L) and click from waypoint to waypoint.'
    "
    v-on="on"
  >
    <template #top>
      <RegisterTabs :tabs="tabs" :chosen="tab" @choose="tab = $event as typeof tab" />
    </template>
    <template #symbol="{ row }">
      <svg width="17" height="12" aria-hidden="true" class="shrink-0">
        <path
          v-if="row.kind === 'network' && tab === 'waypoints'"
          d="M8 1 13 6 8 11 3 6Z"
          fill="var(--sheet)"
          stroke="var(--pine)"
          stroke-width="1.6"
        />
        <circle
          v-else-if="tab === 'waypoints'"
          cx="8"
          cy="6"
          r="4.5"
          fill="var(--sheet)"
          :stroke="LINES[row.kind ?? 'loose'].colour"
          stroke-width="2"
        />
        <path
          v-else
          d="M0 6h17"
          :stroke="LINES[row.kind ?? 'network'].colour"
          :stroke-width="LINES[row.kind ?? 'network'].width"
          :stroke-dasharray="LINES[row.kind ?? 'network'].dash"
        />
      </svg>
    </template>
    <template #foot>
      <button class="btn btn-main" @click="sheet.toolId = 'draw'">Draw a route</button>
      <ActionMenu label="Lay" :items="items" />
    </template>
  </RegisterPanel>
</template>
