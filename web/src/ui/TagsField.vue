<script setup lang="ts">
import { ref, watch } from 'vue'

const props = defineProps<{ tags: readonly string[] }>()
const emit = defineEmits<{ change: [tags: string[]] }>()
const text = ref('')
watch(
  () => props.tags,
  (tags) => (text.value = tags.join(', ')),
  { immediate: true },
)
function commit() {
  const tags = [
    ...new Set(
      text.value
        .split(',')
        .map((t) => t.trim())
        .filter(Boolean),
    ),
  ].slice(0, 50)
  if (tags.join() !== props.tags.join()) emit('change', tags)
}
</script>

<template>
  <label class="mt-2 block">
    <span class="label">tags, with commas between</span>
    <input v-model="text" class="field" aria-label="tags" maxlength="2000" @change="commit" @keydown.enter="commit" />
  </label>
</template>
