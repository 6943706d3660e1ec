<script setup lang="ts">
import type { SneakLine, WatchSpot } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import WhoWatches from './WhoWatches.vue'
import WidenPanel from './WidenPanel.vue'

/** What the cards of what is watched have in common: what was found, what would widen it, its fields, and whose eyes count. */
const props = defineProps<{
  id: string
  in: 'watchSpots' | 'sneakLines'
  kind: string
  tone: string
  longestS: number | undefined
}>()
const { sheet, thing, things, set, setField, release, remove } = useThing(props.in, () => props.id)
const watched = computed(() => thing.value as WatchSpot | SneakLine)
const wish = computed(() => ({ in: props.in, id: props.id, wantedS: watched.value.wantedS }))
</script>

<template>
  <CardFrame
    :kind="kind"
    :name="watched.name"
    :tone="tone"
    :locked="watched.locked"
    :subjects="[id]"
    @rename="set({ name: $event })"
  >
    <slot />
    <WidenPanel
      :wish="wish"
      :longest-s="longestS"
      :locked="watched.locked"
      @wanted="(v, gesture) => set({ wantedS: v }, gesture)"
      @done="release"
    />
    <fieldset :disabled="watched.locked" class="mt-3 border-t border-rule pt-1">
      <ThingFields :in="props.in" :things="things" :except="['wantedS']" @set="setField" @done="release" />
      <WhoWatches :faction-ids="watched.factionIds" @set="set({ factionIds: $event })" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="sheet.openDrawer('windows')">Show its bands</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
