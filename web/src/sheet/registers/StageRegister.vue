<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Register } from '../../kinds/register'
import { STAGE_NAMES, useSheetStore } from '../../stores/sheet'
import RegisterPanel from './RegisterPanel.vue'
import RegisterTabs from './RegisterTabs.vue'

/** The register of a stage: a list behind each of its tabs. */
const props = defineProps<{ registers: readonly Register[] }>()
const sheet = useSheetStore()
// The registers of a stage do not change while it is open.
const lists = props.registers.map((register) => ({ register, content: register.use() }))
const shown = computed(() => lists.filter((l) => !l.register.ifAny || l.content.count.value > 0))
const tab = ref(lists[0].register.id)
const now = computed(() => shown.value.find((l) => l.register.id === tab.value) ?? lists[0])
const tabs = computed(() =>
  shown.value.map(({ register, content }) => ({
    id: register.id,
    name: register.name,
    count: content.count.value,
  })),
)
/** Choosing something elsewhere opens the list it is in. */
watch(
  () => sheet.chosen,
  (id) => {
    const list = id && shown.value.find((l) => l.content.lists(id))
    if (list) tab.value = list.register.id
  },
)
</script>

<template>
  <!-- Each list has a search of its own. -->
  <RegisterPanel
    :key="now.register.id"
    :title="STAGE_NAMES[sheet.stage]"
    :figure="now.content.figure.value"
    :rows="now.content.rows.value"
    :find="now.register.find"
    :fixed="now.register.fixed"
    :plain="now.register.plain"
    :empty="now.content.empty.value"
    :kinds="now.content.kinds?.value"
    @rename="(id, name) => now.content.actions.rename?.(id, name)"
    @hide="now.content.actions.hide?.($event)"
    @lock="now.content.actions.lock?.($event)"
    @zoom="now.content.actions.zoom?.($event)"
  >
    <template #top>
      <slot name="top" />
      <RegisterTabs v-if="tabs.length > 1" :tabs="tabs" :chosen="now.register.id" @choose="tab = $event" />
      <component :is="now.register.top" v-if="now.register.top" class="mb-1" />
    </template>
    <template #symbol="{ row }"><component :is="now.register.symbol" :row="row" /></template>
    <template v-if="now.register.foot" #foot><component :is="now.register.foot" /></template>
  </RegisterPanel>
</template>
