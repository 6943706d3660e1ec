<script setup lang="ts">
import { computed } from 'vue'
import RegisterPanel, { type RegisterRow } from '../sheet/RegisterPanel.vue'
import { requestPlace } from '../sheet/zoom'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import { count } from '../ui/figures'

const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()

const islands = computed(() => (survey.profileId ? survey.reach.get(survey.profileId)?.islands : undefined) ?? [])
const rows = computed<RegisterRow[]>(() =>
  islands.value.map((island, i) => ({
    id: `island-${i}`,
    name: i === 0 ? 'Main island' : `Island ${i + 1}`,
    detail: `${island.areaM2 < 10 ? island.areaM2.toFixed(1) : Math.round(island.areaM2).toLocaleString('en')} m² · at ${island.at[2].toFixed(1)} m`,
    size: island.areaM2,
  })),
)
const STROKES = ['var(--pine)', 'var(--plum)', 'var(--ochre)', 'var(--lake)', 'var(--rust)']

function show(id: string) {
  const island = islands.value[Number(id.slice(7))]
  if (island) requestPlace(island.at)
}
</script>

<template>
  <RegisterPanel
    title="Reach"
    :figure="count(islands.length, 'island')"
    :rows="rows"
    find="Find an island"
    fixed
    :empty="
      survey.profileId
        ? 'Nobody of this profile can stand anywhere here. Try “Why not here?” on the map.'
        : 'This level has no profile. Without a body nothing can be reached.'
    "
    @zoom="show"
    @click="sheet.chosen?.startsWith('island-') && show(sheet.chosen)"
  >
    <template #top>
      <label class="mb-1 block">
        <span class="label">where can go</span>
        <select
          class="field"
          aria-label="Profile"
          :value="survey.profileId"
          @change="survey.profileChoice = ($event.target as HTMLSelectElement).value"
        >
          <option
            v-for="(p, id) in levels.doc.profiles"
            :key="id"
            :value="id"
            :disabled="!survey.reach.has(String(id))"
          >
            {{ p.name }}
          </option>
        </select>
      </label>
      <p v-if="survey.profileId" class="mb-1 text-[12px] text-faded">
        {{ levels.doc.profiles[survey.profileId].radiusM }} m round,
        {{ levels.doc.profiles[survey.profileId].heightM }} m high; steps
        {{ levels.doc.profiles[survey.profileId].stepM }} m, climbs
        {{ Math.round((levels.doc.profiles[survey.profileId].maxSlopeRad * 180) / Math.PI) }}°
      </p>
    </template>
    <template #symbol="{ row }">
      <svg width="20" height="16" aria-hidden="true" class="shrink-0">
        <rect
          x="1"
          y="1"
          width="18"
          height="14"
          fill="none"
          :stroke="STROKES[Number(row.id.slice(7)) % 5]"
          stroke-dasharray="2 2.5"
          stroke-width="1.6"
        />
      </svg>
    </template>
    <template #foot>
      <button class="btn btn-main" @click="sheet.toolId = 'probe'">Probe a path</button>
      <button class="btn" @click="sheet.toolId = 'why'">Why not?</button>
    </template>
  </RegisterPanel>
</template>
