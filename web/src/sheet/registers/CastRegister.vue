<script setup lang="ts">
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed } from 'vue'
import RegisterPanel, { type RegisterRow } from './RegisterPanel.vue'
import { useRegisterActions } from './register-actions'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { count } from '../../ui/figures'

const levels = useLevelStore()
const sheet = useSheetStore()
const actions = useRegisterActions(() => 'spawners')

const rows = computed<RegisterRow[]>(() =>
  Object.entries(levels.doc.spawners).map(([id, s]) => {
    const route = routesOfSpawner(levels.doc, id)[0]
    const who = s.profileId ? levels.doc.profiles[s.profileId].name : 'no profile'
    return {
      id,
      name: s.name || 'Unnamed',
      detail: `${s.count} × ${who} · ${route ? levels.doc.routes[route].name : 'no route'}`,
      hidden: s.hidden,
      locked: s.locked,
      size: s.count,
    }
  }),
)
const total = computed(() => Object.values(levels.doc.spawners).reduce((n, s) => n + s.count, 0))
const routes = computed(() => Object.entries(levels.doc.routes).filter(([, r]) => r.kind !== 'network'))

function drag(event: DragEvent, id: string) {
  event.dataTransfer?.setData('application/x-tidytrail-route', id)
}
</script>

<template>
  <div class="flex max-h-full flex-col gap-2">
    <RegisterPanel
      class="min-h-[150px]"
      title="Cast"
      :figure="count(total, 'agent')"
      :rows="rows"
      find="Find a spawner"
      empty="Nobody appears here yet. Place a spawner, then drop a route on it."
      v-on="actions"
    >
      <template #symbol>
        <svg width="18" height="18" viewBox="0 0 20 20" aria-hidden="true" class="shrink-0" fill="none">
          <path d="M18 2H2v16h16" stroke="var(--ink)" stroke-width="1.6" />
          <path d="M17 10c-3-3-5-4-8-4a4 4 0 0 0 0 8c3 0 5-1 8-4z" fill="var(--pine)" />
        </svg>
      </template>
      <template #foot><button class="btn btn-main" @click="sheet.toolId = 'spawner'">Place a spawner</button></template>
    </RegisterPanel>
    <section v-if="routes.length > 0" class="panel w-[236px] px-3 py-2" aria-label="Routes to assign">
      <p class="label mb-1">Drop a route on a spawner</p>
      <div class="flex max-h-[92px] flex-wrap gap-1 overflow-y-auto">
        <span
          v-for="[id, r] in routes"
          :key="id"
          class="max-w-full cursor-grab truncate rounded-full border border-rust px-2 py-0.5 text-[12.5px]"
          draggable="true"
          :title="`Drag ${r.name} onto a spawner`"
          @dragstart="drag($event, id)"
          @mouseenter="sheet.hovered = id"
          @mouseleave="sheet.hovered = undefined"
          >{{ r.name }}</span
        >
      </div>
    </section>
  </div>
</template>
