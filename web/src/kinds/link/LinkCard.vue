<script setup lang="ts">
import { forksOf, sharesOf, type ForkWay } from '@tidytrail/core/network'
import { cutLinks, setThings, turnLink } from '@tidytrail/core/level'
import { laneNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import CardFrame from '../card/CardFrame.vue'
import { count, metres } from '../../ui/figures'
import ThingFields from '../card/ThingFields.vue'

/** One link or many. */
const props = defineProps<{ ids: readonly string[] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const links = computed(() => props.ids.flatMap((id) => (levels.doc.links[id] ? [levels.doc.links[id]] : [])))
const one = computed(() => (links.value.length === 1 ? links.value[0] : undefined))
const things = computed(() =>
  props.ids.flatMap((id) => (levels.doc.links[id] ? [{ id, thing: levels.doc.links[id] }] : [])),
)
const setField = (values: (thing: object) => object, gesture: string | undefined) =>
  levels.perform(
    setThings,
    { things: things.value.map(({ id, thing }) => ({ in: 'links' as const, id, set: values(thing) })), word: 'Change' },
    gesture,
  )
const length = computed(() =>
  links.value.reduce((sum, { fromId, toId }) => {
    const [a, b] = [levels.doc.waypoints[fromId].at, levels.doc.waypoints[toId].at]
    return sum + Math.hypot(a[0] - b[0], a[1] - b[1])
  }, 0),
)
/** The other ways that part where it begins: those it shares the traffic with. */
const fork = computed(() => {
  const link = one.value
  return link && !link.twoWay ? (forksOf(levels.doc).get(link.fromId) ?? []) : []
})
const total = computed(() => sharesOf(fork.value))
const owner = computed(() => Object.entries(levels.doc.routes).find(([, r]) => r.linkIds.includes(props.ids[0])))
/** A link between the ends of a passage is that passage. */
const passage = computed(() => {
  const link = one.value
  if (!link) return undefined
  const near = (a: readonly number[], b: readonly number[]) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) <= 1
  const [a, b] = [levels.doc.waypoints[link.fromId].at, levels.doc.waypoints[link.toId].at]
  return Object.values(levels.doc.passages).find(
    (p) => (near(p.from, a) && near(p.to, b)) || (near(p.from, b) && near(p.to, a)),
  )
})
const nameOf = (id: string) => levels.doc.waypoints[id].name || 'a waypoint'
/** The way from one lane into another that it is. */
const move = computed(() => (one.value ? laneNet(levels.doc).moves.get(props.ids[0]) : undefined))
const laneName = (id: string) => levels.doc.routes[id].name
const wayWords = (way: ForkWay) => {
  if (way.routeId) return `on along ${laneName(way.routeId)}`
  const into = way.linkId && laneNet(levels.doc).moves.get(way.linkId)
  return into ? `into ${laneName(into.to)}` : `to ${nameOf(way.toId)}`
}
const title = computed(() => {
  const link = one.value
  if (move.value) return `Into ${laneName(move.value.to)}`
  return link ? `${nameOf(link.fromId)} ${link.twoWay ? '–' : '→'} ${nameOf(link.toId)}` : 'Several links'
})
function remove() {
  levels.perform(cutLinks, { ids: props.ids })
  sheet.choose(owner.value ? [owner.value[0]] : [])
}
</script>

<template>
  <CardFrame
    v-if="links.length > 0"
    :kind="move ? 'join' : one ? 'link' : count(links.length, 'link')"
    :name="title"
    fixed
    tone="text-pine"
  >
    <p class="text-[13px] text-faded">
      {{ metres(move ? move.line.lengthM : length)
      }}{{ move ? ` · from ${laneName(move.from)}` : owner ? ` · of ${owner[1].name}` : ' · belongs to no network'
      }}{{ passage ? ` · leads through ${passage.name || `a ${passage.kind}`}` : '' }}
    </p>
    <ThingFields in="links" :things="things" :except="move ? [] : ['turnM']" @set="setField" @done="levels.release()" />
    <template v-if="fork.length > 1">
      <p class="label mt-2">at this fork</p>
      <ul class="text-[13px]">
        <li
          v-for="way in fork"
          :key="(way.linkId ?? way.routeId)!"
          class="flex justify-between border-t border-dotted border-rule py-px"
        >
          <button
            class="truncate"
            :class="way.linkId && ids.includes(way.linkId) ? 'font-bold' : 'underline'"
            @click="sheet.choose([(way.linkId ?? way.routeId)!])"
          >
            {{ wayWords(way) }}
          </button>
          <b>{{ total > 0 ? Math.round((100 * way.share) / total) : 0 }} %</b>
        </li>
      </ul>
    </template>
    <template #foot>
      <button v-if="one && !one.twoWay" class="btn" @click="levels.perform(turnLink, { id: ids[0] })">
        Turn it round
      </button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
