<script setup lang="ts">
import { computed, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { COVER_WORDS, coverBrush } from './paint'

const levels = useLevelStore()
const own = ref('')
const kinds = computed(() => [
  ...new Set([...Object.keys(COVER_WORDS), ...Object.values(levels.doc.covers).map((c) => c.kind), coverBrush.kind]),
])
function addOwn() {
  if (own.value.trim()) coverBrush.kind = own.value.trim()
  own.value = ''
}
</script>

<template>
  <label v-for="k in kinds" :key="k" class="row gap-1!">
    <input v-model="coverBrush.kind" type="radio" name="cover-kind" class="accent-pine" :value="k" />
    {{ COVER_WORDS[k] ?? k }}
  </label>
  <input
    v-model="own"
    class="field w-[96px]!"
    placeholder="own kind"
    aria-label="A kind of your own"
    maxlength="60"
    @keydown.enter.prevent="addOwn"
    @change="addOwn"
  />
</template>
