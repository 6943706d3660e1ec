<script setup lang="ts">
import { useLevelStore } from '../../stores/level'
import { useSurveyStore } from '../../stores/survey'

/** Which profile the map is looked at for. */
withDefaults(defineProps<{ label?: string }>(), { label: 'where can go' })
const levels = useLevelStore()
const survey = useSurveyStore()
</script>

<template>
  <label class="block">
    <span class="label">{{ label }}</span>
    <select
      class="field"
      aria-label="Profile"
      :value="survey.profileId"
      @change="survey.profileChoice = ($event.target as HTMLSelectElement).value"
    >
      <option v-for="(p, id) in levels.doc.profiles" :key="id" :value="id">{{ p.name }}</option>
    </select>
  </label>
</template>
