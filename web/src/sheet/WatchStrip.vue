<script setup lang="ts">
import { useRehearsalStore } from '../stores/rehearsal'
import { useInsightStore } from '../stores/insight'
import { useWatchingStore, WATCHES, type Watch } from '../stores/watching'

/** What is shown beside the agents while a rehearsal is watched. */
const watching = useWatchingStore()
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const all = Object.entries(WATCHES) as [Watch, (typeof WATCHES)[Watch]][]
</script>

<template>
  <div class="panel inline-flex text-[13px]" role="group" aria-label="Watch">
    <label
      v-for="[id, { label, title }] in all"
      :key="id"
      class="flex h-[30px] cursor-pointer items-center gap-1.5 border-l border-rule px-2 whitespace-nowrap first:border-l-0 hover:bg-tint"
      :class="id === 'earlier' && !rehearsal.earlier ? 'hidden' : ''"
      :title="title"
    >
      <input v-model="watching.on[id]" type="checkbox" class="accent-pine" />{{ label }}
    </label>
    <label
      class="flex h-[30px] cursor-pointer items-center gap-1.5 border-l border-rule px-2 whitespace-nowrap hover:bg-tint"
      title="What is watched how much of the time; what never is has a dot in each square"
    >
      <input v-model="insight.shown.coverage" type="checkbox" class="accent-pine" />Watched
      <span v-if="insight.shown.coverage && !insight.coverage" class="text-faded">…</span>
    </label>
  </div>
</template>
