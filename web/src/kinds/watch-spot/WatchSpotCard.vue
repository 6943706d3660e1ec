<script setup lang="ts">
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import SpanList from './SpanList.vue'
import WatchedCard from './WatchedCard.vue'

/** A watch spot: when nobody watches it, and what would make that longer. */
const props = defineProps<{ id: string }>()
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const answer = computed(() => insight.spotOf(props.id))
const names = computed(() => [...new Set(answer.value?.watched.map((w) => rehearsal.nameOf(w.key) ?? ''))].join(', '))
</script>

<template>
  <WatchedCard :id="id" in="watchSpots" kind="watch spot" tone="text-lake" :longest-s="answer?.figures.longestS">
    <template v-if="answer">
      <p v-if="answer.lookers === 0" class="text-faded">There is nobody whose eyes count, so it is never watched.</p>
      <SpanList :spans="answer.open" :figures="answer.figures" share="watched by nobody" />
      <p v-if="names" class="mt-1 text-[12.5px] text-faded">Watched by {{ names }}.</p>
    </template>
    <p v-else class="text-faded">{{ rehearsal.begun ? 'Looking …' : 'Rehearse, to see when nobody watches it.' }}</p>
  </WatchedCard>
</template>
