<script setup lang="ts">
import { useLevelStore } from '../../stores/level'

/** Ticks for the profiles something is open to. */
const props = defineProps<{
  chosen: readonly string[]
  label: string
  /** It names nobody any more, and so nobody may use it. */
  nobody?: boolean
}>()
const emit = defineEmits<{ change: [ids: string[]] }>()
const levels = useLevelStore()
function toggle(id: string) {
  emit('change', props.chosen.includes(id) ? props.chosen.filter((p) => p !== id) : [...props.chosen, id])
}
</script>

<template>
  <fieldset class="mt-2">
    <legend class="label">{{ label }}</legend>
    <label v-for="(p, id) in levels.doc.profiles" :key="id" class="row py-0.5">
      <input type="checkbox" class="accent-pine" :checked="chosen.includes(String(id))" @change="toggle(String(id))" />
      {{ p.name }}
    </label>
    <p v-if="nobody" class="mt-1 text-[13px] text-ochre">
      Nobody may use it: the last profile it named was deleted.
      <button class="underline" @click="emit('change', [])">Open it to everyone</button>
    </p>
  </fieldset>
</template>
