<script setup lang="ts">
import { byRank, restack } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'

/** Which of things that lie over one another is on top, and how to change it. */
const props = defineProps<{ id: string; in: 'covers' | 'underlays' }>()
const levels = useLevelStore()
const stack = computed(() => byRank(levels.doc[props.in] as Readonly<Record<string, { rank: number }>>))
const at = computed(() => stack.value.findIndex(([id]) => id === props.id))
const move = (how: 'forward' | 'back') => levels.perform(restack, { in: props.in, id: props.id, how })
</script>

<template>
  <div v-if="stack.length > 1" class="mt-2">
    <p class="label">{{ at + 1 }} of {{ stack.length }} from below; where they overlap the one above counts</p>
    <div class="mt-0.5 flex gap-1.5">
      <button class="btn" :disabled="at === stack.length - 1" @click="move('forward')">Forward</button>
      <button class="btn" :disabled="at === 0" @click="move('back')">Back</button>
    </div>
  </div>
</template>
