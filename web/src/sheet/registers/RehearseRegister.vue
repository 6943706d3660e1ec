<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Register } from '../../kinds/register'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import AgentsRegister from './AgentsRegister.vue'
import RegisterTabs from './RegisterTabs.vue'
import StageRegister from './StageRegister.vue'

/** Who is on the ground, and what is asked of them: watch spots, sneak lines and trials. */
const props = defineProps<{ registers: readonly Register[] }>()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
const side = ref<'agents' | 'asked'>('agents')
const asked = computed(() => props.registers.reduce((n, r) => n + Object.keys(levels.doc[r.id as 'trials']).length, 0))
const tabs = computed(() => [
  { id: 'agents', name: 'Agents', count: rehearsal.count },
  { id: 'asked', name: 'Measured', count: asked.value },
])
watch(
  () => sheet.chosen,
  (id) => {
    if (!id) return
    if (rehearsal.placeOf(id) >= 0) side.value = 'agents'
    else if (props.registers.some((r) => Object.hasOwn(levels.doc[r.id as 'trials'], id))) side.value = 'asked'
  },
)
const choose = (id: string) => (side.value = id as typeof side.value)
</script>

<template>
  <AgentsRegister v-if="side === 'agents'">
    <template #top><RegisterTabs :tabs="tabs" :chosen="side" @choose="choose" /></template>
  </AgentsRegister>
  <StageRegister v-else :registers="registers">
    <template #top><RegisterTabs :tabs="tabs" :chosen="side" @choose="choose" /></template>
  </StageRegister>
</template>
