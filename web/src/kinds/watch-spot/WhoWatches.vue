<script setup lang="ts">
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'

/** Whose eyes count: factions to be ticked. */
const props = defineProps<{ factionIds: readonly string[] }>()
const emit = defineEmits<{ set: [factionIds: string[]] }>()
const levels = useLevelStore()
const factions = computed(() => Object.entries(levels.doc.factions))
function toggle(id: string): void {
  const { factionIds } = props
  emit('set', factionIds.includes(id) ? factionIds.filter((f) => f !== id) : [...factionIds, id])
}
</script>

<template>
  <fieldset v-if="factions.length > 0" class="mt-2">
    <legend class="label">watched by (none ticked: who is hostile to the player)</legend>
    <label v-for="[id, f] in factions" :key="id" class="row py-0.5">
      <input type="checkbox" class="accent-pine" :checked="factionIds.includes(id)" @change="toggle(id)" />
      {{ f.name }}
    </label>
  </fieldset>
</template>
