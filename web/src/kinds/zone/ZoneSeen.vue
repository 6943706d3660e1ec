<script setup lang="ts">
import { coverageFigures, type Coverage } from '@tidytrail/core/insight'
import { computed, ref, shallowRef, watch } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { seconds } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'

/** What of a zone is seen in what was rehearsed, how soon, and what never is. */
const props = defineProps<{ id: string }>()
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const seen = shallowRef<Coverage>()
const looking = ref(false)
const withinS = ref(60)
const figures = computed(() => seen.value && coverageFigures(seen.value, withinS.value))
watch([() => props.id, () => rehearsal.hash], () => (seen.value = undefined))
async function look(): Promise<void> {
  looking.value = true
  seen.value = await insight.zoneSeen(props.id)
  looking.value = false
}
const pc = (share: number) => `${(100 * share).toFixed(share > 0.99 && share < 1 ? 1 : 0)} %`
</script>

<template>
  <div v-if="rehearsal.begun" class="mt-2 border-t border-rule pt-2">
    <button v-if="!figures" class="btn" :disabled="looking || rehearsal.running" @click="look">
      {{ looking ? 'Looking …' : 'How much of it is seen?' }}
    </button>
    <template v-else>
      <p data-testid="zone-seen">
        <b>{{ pc(figures.seen) }}</b> of it is seen in {{ seconds(seen!.ofS) }}, <b>{{ pc(figures.within) }}</b> within
        {{ seconds(withinS) }}; each place is watched {{ pc(figures.watched) }} of the time.
      </p>
      <p v-if="figures.never.length > 0" class="text-[12.5px] text-faded">
        {{ figures.never.length }} places are never seen: those with a dot on the map.
      </p>
      <NumberField
        label="within"
        unit="s"
        :value="withinS"
        :min="0"
        :max="7200"
        :digits="0"
        :step="0.5"
        @change="(v) => (withinS = v)"
      />
    </template>
  </div>
</template>
