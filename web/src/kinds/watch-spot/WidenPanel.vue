<script setup lang="ts">
import { changed, type Widening, type Wish } from '@tidytrail/core/insight'
import { changeStops, changeThings } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { seconds } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'

/** The smallest changes that give a window as long as is wanted, or make a trial hold, each tried out for real. */
const props = defineProps<{ wish: Wish; longestS: number | undefined; locked?: boolean }>()
const emit = defineEmits<{ wanted: [wantedS: number, gesture: string | undefined]; done: [] }>()
const insight = useInsightStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()

const about = (a: Wish, b: Wish) => a.id === b.id && a.trialId === b.trialId && a.wantedS === b.wantedS
const now = computed(() => {
  const { widening } = insight
  return widening && about(widening.wish, props.wish) ? widening : undefined
})
const found = computed(() =>
  [...(now.value?.progress?.found ?? [])].sort(
    (a, b) => RANK[a.kind] - RANK[b.kind] || Math.abs(a.value) - Math.abs(b.value),
  ),
)
const RANK = { pause: 0, turn: 1, start: 2, pace: 3 } as const
const enough = computed(
  () => props.wish.trialId === undefined && props.longestS !== undefined && props.longestS >= props.wish.wantedS - 1e-6,
)
const ready = computed(() => rehearsal.begun && !rehearsal.running)

function take({ change }: Widening): void {
  levels.together(change.label, [
    (level) =>
      change.edit === 'changeStops' ? changeStops.apply(level, change.args) : changeThings.apply(level, change.args),
  ])
  // It was tried from the first second on: so it is shown, and not from the moment that is looked at.
  rehearsal.begin(rehearsal.seed)
}
/** Would it still change anything? */
const helps = (w: Widening) => changed(levels.doc, w.change) !== levels.doc
</script>

<template>
  <section class="mt-3 border-t border-rule pt-2" aria-label="Widen it">
    <h3 class="text-[15px]">{{ wish.trialId === undefined ? 'Widen it' : 'Mend it' }}</h3>
    <NumberField
      v-if="wish.trialId === undefined && !locked"
      class="mt-1"
      label="window wanted"
      unit="s"
      :step="0.1"
      :digits="1"
      :min="0"
      :max="3600"
      :value="wish.wantedS"
      @change="(v, gesture) => emit('wanted', v, gesture)"
      @done="emit('done')"
    />
    <p v-if="enough" class="mt-1 text-[13px] text-pine">There is one as long as that already.</p>
    <template v-else>
      <div class="mt-1.5 flex flex-wrap gap-1.5">
        <button
          v-if="!now || now.done"
          class="btn btn-main"
          :disabled="!ready"
          :title="
            ready
              ? 'Tries longer pauses, slower paces, later starts and other directions in rehearsals'
              : 'Rehearse first'
          "
          @click="insight.widen(wish)"
        >
          {{
            now?.done
              ? 'Look again'
              : wish.trialId === undefined
                ? 'Find changes that give it'
                : 'Find changes that make it hold'
          }}
        </button>
        <button v-else class="btn" @click="insight.stopWidening()">Stop looking</button>
      </div>
      <template v-if="now">
        <p v-if="!now.done" class="mt-1 text-[12.5px] text-lake" role="status">
          {{
            now.progress
              ? `Tried ${now.progress.done} of ${now.progress.total} kinds of changes, ${now.progress.runs} rehearsals.`
              : 'Working out the reach …'
          }}
        </p>
        <p v-if="now.done && found.length === 0 && now.progress" class="mt-1 text-[13px] text-alarm" data-testid="most">
          No single change gives it. The most is {{ seconds(now.progress.most.longestS) }}:
          {{ now.progress.most.label }}.
        </p>
        <ul class="mt-1" data-testid="widenings">
          <li v-for="w in found" :key="w.change.label" class="mt-1.5 border-l-2 border-pine pl-2">
            <button class="btn" :disabled="!helps(w)" @click="take(w)">{{ w.change.label }}</button>
            <p class="text-[12.5px] text-faded">longest window {{ seconds(w.longestS) }}</p>
            <details v-if="w.else.length > 0" class="text-[12.5px] text-faded">
              <summary>What else it changes</summary>
              <p v-for="e in w.else.slice(0, 8)" :key="e.name">
                {{ e.name }}: {{ +e.before.toFixed(2) }} → {{ +e.after.toFixed(2) }} {{ e.unit }}
              </p>
            </details>
          </li>
        </ul>
      </template>
    </template>
  </section>
</template>
