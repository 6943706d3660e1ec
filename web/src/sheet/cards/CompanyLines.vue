<script setup lang="ts">
import { computed, watch } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { clock, seconds } from '../../ui/figures'

/** Whom one of those who watch meets on its rounds, and when it is alone. */
const props = defineProps<{ agentKey: number }>()
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
watch(
  () => rehearsal.hash,
  () => void insight.findCompany(),
  { immediate: true },
)
const of = computed(() => (insight.company?.hash === rehearsal.hash ? insight.company.of : undefined))
const alone = computed(() => of.value?.alone.find((a) => a.key === props.agentKey))
const longest = computed(() => [...(alone.value?.spans ?? [])].sort((a, b) => b.to - b.from - (a.to - a.from)).at(0))
/** So many meetings are listed. */
const MOST = 8
const meetings = computed(() =>
  (of.value?.meetings ?? [])
    .filter((m) => m.keys.includes(props.agentKey))
    .map((m) => ({ ...m, other: m.keys[0] === props.agentKey ? m.keys[1] : m.keys[0] })),
)
function go(at: number): void {
  rehearsal.playing = false
  rehearsal.seek(at)
}
</script>

<template>
  <section v-if="alone" class="mt-2 border-t border-rule pt-2 text-[12.5px]" aria-label="Company">
    <h3 class="text-[15px]">Company</h3>
    <p>
      Alone {{ Math.round(100 * alone.share) }} % of the time<template v-if="longest"
        >, longest
        <button class="underline" @click="go(longest.from)">
          {{ seconds(longest.to - longest.from) }} from {{ clock(longest.from) }} on
        </button></template
      >.
    </p>
    <p v-if="meetings.length === 0" class="text-faded">It meets nobody of its own.</p>
    <ul v-else>
      <li v-for="m in meetings.slice(0, MOST)" :key="`${m.other} ${m.span.from}`">
        <button class="underline" @click="go(m.span.from)">{{ clock(m.span.from) }}</button>
        meets {{ rehearsal.nameOf(m.other) }} for {{ seconds(m.span.to - m.span.from) }}
      </li>
      <li v-if="meetings.length > MOST" class="text-faded">and {{ meetings.length - MOST }} times more</li>
    </ul>
  </section>
</template>
