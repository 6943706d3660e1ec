<script setup lang="ts">
import { addLinks, cutLinks, removeThings, setThings, type Route } from '@tidytrail/core/level'
import { articulationPoints, weaklyConnected, stronglyConnected, waypointGraph } from '@tidytrail/core/network'
import { computed, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import CardFrame from '../card/CardFrame.vue'
import ActionMenu from '../../ui/ActionMenu.vue'
import { count, metres } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import { toast } from '../../ui/toasts'
import { useRouteSelection } from './shapes'

/** A free graph of nodes and links: how it hangs together, and what links it. */
const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const gathering = useRouteSelection()
const route = computed(() => levels.doc.routes[props.id])
const withinM = ref(12)
const longerPercent = ref(15)
const busy = ref(false)
const nodes = computed(() => route.value.order.map((s) => route.value.stops[s].waypointId))
const net = computed(() => waypointGraph(levels.doc, { routeIds: new Set([props.id]) }))
const parts = computed(() => weaklyConnected(net.value.graph).sizes.length)
const strong = computed(() => stronglyConnected(net.value.graph).sizes.filter((s) => s > 0).length)
const cuts = computed(() => articulationPoints(net.value.graph, net.value.same))
const length = computed(() => {
  let sum = 0
  for (const l of route.value.linkIds) {
    const { fromId, toId } = levels.doc.links[l]
    const [a, b] = [levels.doc.waypoints[fromId].at, levels.doc.waypoints[toId].at]
    sum += Math.hypot(a[0] - b[0], a[1] - b[1])
  }
  return sum
})
const profileId = computed(() => route.value.profileIds[0] ?? survey.profileId)
const set = (values: Partial<Route>) =>
  levels.perform(setThings, { things: [{ in: 'routes', id: props.id, set: values }], word: 'Change' })

async function linkBySight() {
  busy.value = true
  try {
    const pairs = await survey.inSight(nodes.value, withinM.value, profileId.value)
    const known = new Set(
      route.value.linkIds.flatMap((l) => [
        `${levels.doc.links[l].fromId} ${levels.doc.links[l].toId}`,
        `${levels.doc.links[l].toId} ${levels.doc.links[l].fromId}`,
      ]),
    )
    const links = pairs
      .filter(([a, b]) => !known.has(`${a} ${b}`))
      .map(([fromId, toId]) => ({ id: randomId('links'), fromId, toId }))
    if (links.length === 0)
      return toast(`No two nodes that are not linked yet see each other within ${metres(withinM.value)}.`)
    levels.perform(addLinks, { routeId: props.id, links })
    toast(`${count(links.length, 'link')} added.`, { action: levels.undoLast() })
  } catch (e) {
    toast((e as Error).message, { kind: 'alarm' })
  } finally {
    busy.value = false
  }
}

async function prune() {
  busy.value = true
  try {
    const spare = await survey.spare(props.id, 1 + longerPercent.value / 100)
    if (spare.length === 0) return toast('Every link matters; none was dropped.')
    levels.perform(cutLinks, { ids: spare, word: 'Prune' })
    toast(`${count(spare.length, 'link')} dropped; no way is more than ${longerPercent.value} % longer.`, {
      action: levels.undoLast(),
    })
  } finally {
    busy.value = false
  }
}
function goOn() {
  sheet.stage = 'routes'
  sheet.toolId = 'link'
}
function remove() {
  levels.perform(removeThings, { ids: [props.id] })
  sheet.choose([])
}
const items = computed(() => [
  { name: 'All its nodes', run: () => gathering.allStops(props.id) },
  { name: 'All its links', run: () => sheet.choose(route.value.linkIds), off: route.value.linkIds.length === 0 },
  {
    name: 'Its cut nodes',
    run: () =>
      sheet.choose(
        route.value.order.filter((s) =>
          cuts.value.nodes.some((n) => net.value.ids[n] === route.value.stops[s].waypointId),
        ),
      ),
    off: cuts.value.nodes.length === 0,
  },
  { name: 'All it is connected to', run: () => gathering.connected(props.id) },
])
</script>

<template>
  <CardFrame
    kind="network"
    :name="route.name"
    tone="text-pine"
    :locked="route.locked"
    :subjects="[id, ...nodes]"
    @rename="set({ name: $event })"
  >
    <dl class="grid grid-cols-3 gap-y-1 text-[13px]">
      <div>
        <dt class="label">nodes</dt>
        <dd class="font-bold">{{ nodes.length }}</dd>
      </div>
      <div>
        <dt class="label">links</dt>
        <dd class="font-bold">{{ route.linkIds.length }}</dd>
      </div>
      <div>
        <dt class="label">length</dt>
        <dd class="font-bold">{{ metres(length) }}</dd>
      </div>
      <div>
        <dt class="label">parts</dt>
        <dd class="font-bold" :class="parts > 1 ? 'text-alarm' : ''">{{ parts }}</dd>
      </div>
      <div title="Groups within which everything can be reached from everything, the way links lead">
        <dt class="label">both-way parts</dt>
        <dd class="font-bold">{{ strong }}</dd>
      </div>
      <div title="Nodes and links whose loss would part it">
        <dt class="label">weak spots</dt>
        <dd class="font-bold">{{ cuts.nodes.length }} · {{ cuts.bridges.length }}</dd>
      </div>
    </dl>
    <fieldset class="mt-2 border-t border-dotted border-rule pt-1.5" :disabled="route.locked || busy">
      <div class="flex items-end gap-2">
        <div class="w-[104px]">
          <NumberField
            label="see each other within"
            unit="m"
            :min="0.5"
            :value="withinM"
            @change="(v) => (withinM = v)"
          />
        </div>
        <button class="btn" @click="linkBySight">Link by sight</button>
      </div>
      <div class="mt-1.5 flex items-end gap-2">
        <div class="w-[104px]">
          <NumberField
            label="longer by at most"
            unit="%"
            :min="0"
            :max="500"
            :value="longerPercent"
            @change="(v) => (longerPercent = v)"
          />
        </div>
        <button class="btn" :disabled="route.linkIds.length === 0" @click="prune">Prune links</button>
      </div>
    </fieldset>
    <label class="mt-2 block">
      <span class="label">note</span>
      <textarea
        class="field h-[44px]"
        aria-label="Note"
        :value="route.note"
        @change="set({ note: ($event.target as HTMLTextAreaElement).value })"
      />
    </label>
    <template #foot>
      <button class="btn" :disabled="route.locked" @click="goOn">Go on laying</button>
      <ActionMenu label="Choose" :items="items" />
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
