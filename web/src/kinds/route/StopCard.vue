<script setup lang="ts">
import { changeThings, movePlaces } from '@tidytrail/core/level'
import { computed } from 'vue'
import ActionMenu from '../../ui/ActionMenu.vue'
import CardFrame from '../card/CardFrame.vue'
import { useStopItems } from './stop-items'
import StopFields from './StopFields.vue'
import { useStops } from './use-stops'

/** One stop or many, of one route or of several; where they differ a field says so. */
const props = defineProps<{ ids: readonly string[] }>()
const stops = useStops(() => props.ids)
const { levels, sheet, held, single, routeIds, waypointIds, settled, remove } = stops
const items = useStopItems(stops)
const first = computed(() => held.value[0])
const route = computed(() => first.value.route)
const locked = computed(() => held.value.some((h) => h.route.locked))
const network = computed(() => held.value.every((h) => h.route.kind === 'network'))
const waypoint = computed(() => (single.value ? levels.doc.waypoints[single.value.stop.waypointId] : undefined))
const word = computed(() => (network.value ? 'node' : 'stop'))
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** Who else stops at the one waypoint, and which links lead from it. */
const sharing = computed(() => {
  const id = single.value?.stop.waypointId
  return Object.values(levels.doc.routes).flatMap((r) =>
    r.order.flatMap((s, i) =>
      r.stops[s].waypointId === id && s !== single.value?.id ? [{ route: r, id: s, index: i }] : [],
    ),
  )
})
const links = computed(() => {
  const id = single.value?.stop.waypointId
  return Object.entries(levels.doc.links).flatMap(([linkId, l]) =>
    l.fromId === id || l.toId === id
      ? [{ linkId, ...l, far: l.fromId === id ? l.toId : l.fromId, out: l.fromId === id }]
      : [],
  )
})
const nameOfWaypoint = (id: string) => {
  if (levels.doc.waypoints[id].name) return levels.doc.waypoints[id].name
  for (const r of Object.values(levels.doc.routes)) {
    const n = r.order.findIndex((s) => r.stops[s].waypointId === id)
    if (n >= 0) return `${r.kind === 'network' ? 'node' : 'stop'} ${n + 1} of ${r.name}`
  }
  return 'a waypoint'
}
const title = computed(() => {
  if (single.value) return `${word.value} ${single.value.index + 1} of ${route.value.order.length}`
  const of = routeIds.value.length > 1 ? ` of ${routeIds.value.length} routes` : ''
  return `${held.value.length} ${word.value}s${of}`
})
const name = computed(() => {
  if (single.value) return waypoint.value?.name || `${capital(word.value)} ${single.value.index + 1}`
  return routeIds.value.length > 1 ? 'Several at once' : route.value.name
})
function rename(to: string) {
  if (single.value)
    levels.perform(changeThings, { in: 'waypoints', changes: { [single.value.stop.waypointId]: { name: to } } })
}
</script>

<template>
  <CardFrame
    v-if="first"
    :kind="title"
    :name="name"
    :fixed="!single"
    tone="text-rust"
    :locked="locked"
    :subjects="[...ids, ...waypointIds]"
    @rename="rename"
  >
    <button v-if="routeIds.length === 1" class="btn-quiet -ml-1.5" @click="sheet.choose(routeIds)">
      of {{ route.name }} ›
    </button>
    <p v-if="single && sharing.length > 0" class="mb-1 text-[13px]">
      Shared with
      <button v-for="(s, i) in sharing.slice(0, 6)" :key="s.id" class="underline" @click="sheet.choose([s.id])">
        {{ i > 0 ? ', ' : '' }}{{ s.route.name }} {{ s.index + 1 }}</button
      >.
    </p>
    <StopFields :stops="stops" :network="network" :locked="locked" />
    <template v-if="links.length > 0">
      <p class="label mt-1">links</p>
      <ul class="text-[13px]">
        <li
          v-for="l in links.slice(0, 12)"
          :key="l.linkId"
          class="flex justify-between border-t border-dotted border-rule py-px"
        >
          <button class="truncate underline" @click="sheet.choose([l.linkId])">{{ nameOfWaypoint(l.far) }}</button>
          <span class="shrink-0 text-faded">{{ l.twoWay ? 'both ways' : l.out ? 'to it' : 'from it' }}</span>
        </li>
      </ul>
    </template>
    <template #foot>
      <button class="btn" :disabled="locked" @click="levels.perform(movePlaces, { places: settled, word: 'Settle' })">
        Settle{{ held.length > 1 ? ` ${held.length}` : '' }}
      </button>
      <ActionMenu label="More" :items="items" :disabled="locked" />
      <button class="btn text-alarm!" :disabled="locked" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
