<script setup lang="ts">
import type { Route } from '@tidytrail/core/level'
import { computed } from 'vue'
import RegisterPanel, { type RegisterRow } from '../sheet/RegisterPanel.vue'
import { useRegisterActions } from '../sheet/register-actions'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { count, metres, TRAVEL_WORDS } from '../ui/figures'
import { walkedLength } from './route-measures'

const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const actions = useRegisterActions(() => 'routes')

const lengthOf = (id: string) => walkedLength(survey.ways.get(id)?.ways ?? [])
const rows = computed<RegisterRow[]>(() => {
  return Object.entries(levels.doc.routes).map(([id, r]: [string, Route]) => ({
    id,
    routeId: id,
    name: r.name || 'Unnamed',
    detail: `${TRAVEL_WORDS[r.travel].toLowerCase()} · ${count(r.order.length, 'stop')} · ${metres(lengthOf(id))}`,
    hidden: r.hidden,
    locked: r.locked,
    size: lengthOf(id),
  }))
})
const total = computed(() => rows.value.reduce((sum, r) => sum + r.size, 0))
</script>

<template>
  <RegisterPanel
    title="Routes"
    :figure="rows.length > 0 ? `${rows.length} · ${metres(total)}` : ''"
    :rows="rows"
    find="Find a route"
    empty="No routes yet. Draw one: click stop by stop on the map, and click the first again to close the round."
    v-on="actions"
  >
    <template #symbol>
      <svg width="17" height="10" aria-hidden="true" class="shrink-0">
        <path d="M0 5h17" stroke="var(--rust)" stroke-width="3" stroke-dasharray="7 3" />
      </svg>
    </template>
    <template #foot>
      <button class="btn btn-main" @click="sheet.toolId = 'draw'">Draw a route</button>
    </template>
  </RegisterPanel>
</template>
