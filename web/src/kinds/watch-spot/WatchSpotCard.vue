<script setup lang="ts">
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import SpanList from './SpanList.vue'
import WhoWatches from './WhoWatches.vue'
import WidenPanel from './WidenPanel.vue'

/** A watch spot: when nobody watches it, and what would make that longer. */
const props = defineProps<{ id: string }>()
const { sheet, thing: spot, things, set, setField, release, remove } = useThing('watchSpots', () => props.id)
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const answer = computed(() => insight.spotOf(props.id))
const wish = computed(() => ({ in: 'watchSpots' as const, id: props.id, wantedS: spot.value.wantedS }))
const names = computed(() => [...new Set(answer.value?.watched.map((w) => rehearsal.nameOf(w.key) ?? ''))].join(', '))
</script>

<template>
  <CardFrame
    kind="watch spot"
    :name="spot.name"
    tone="text-lake"
    :locked="spot.locked"
    :subjects="[id]"
    @rename="set({ name: $event })"
  >
    <template v-if="answer">
      <p v-if="answer.lookers === 0" class="text-faded">There is nobody whose eyes count, so it is never watched.</p>
      <SpanList :spans="answer.open" :figures="answer.figures" share="watched by nobody" />
      <p v-if="names" class="mt-1 text-[12.5px] text-faded">Watched by {{ names }}.</p>
    </template>
    <p v-else class="text-faded">{{ rehearsal.begun ? 'Looking …' : 'Rehearse, to see when nobody watches it.' }}</p>
    <WidenPanel
      :wish="wish"
      :longest-s="answer?.figures.longestS"
      :locked="spot.locked"
      @wanted="(v, gesture) => set({ wantedS: v }, gesture)"
      @done="release"
    />
    <fieldset :disabled="spot.locked" class="mt-3 border-t border-rule pt-1">
      <ThingFields in="watchSpots" :things="things" :except="['wantedS']" @set="setField" @done="release" />
      <WhoWatches :faction-ids="spot.factionIds" @set="set({ factionIds: $event })" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="sheet.openDrawer('windows')">Show its bands</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
