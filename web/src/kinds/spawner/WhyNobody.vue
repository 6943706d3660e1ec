<script setup lang="ts">
import { whyNobodyCame } from '@tidytrail/core/insight'
import { computed, ref } from 'vue'
import { useRehearsalStore } from '../../stores/rehearsal'

/** Why nobody of a spawner appeared in what was rehearsed, or not more of them. */
const props = defineProps<{ id: string }>()
const rehearsal = useRehearsalStore()
const open = ref(false)
const reasons = computed(() => (open.value && rehearsal.recorded ? whyNobodyCame(rehearsal.recorded, props.id) : []))
function go(at: number): void {
  rehearsal.playing = false
  rehearsal.seek(at)
}
</script>

<template>
  <div v-if="rehearsal.begun" class="mt-2 border-t border-rule pt-2">
    <button class="btn" :aria-expanded="open" @click="open = !open">Who came, and why nobody else?</button>
    <ul v-if="open" class="mt-1 text-[12.5px]" data-testid="why-nobody">
      <li v-for="r in reasons" :key="r.text">
        <button v-if="r.atS !== undefined" class="text-left underline" @click="go(r.atS)">{{ r.text }}</button>
        <template v-else>{{ r.text }}</template>
      </li>
    </ul>
  </div>
</template>
