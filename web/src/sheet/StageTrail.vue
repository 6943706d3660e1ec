<script setup lang="ts">
import { briefCount } from '../ui/brief-count'
import { IconCheck } from '@tabler/icons-vue'
import { computed } from 'vue'
import { STAGE_NAMES, STAGES, useSheetStore, type StageId } from '../stores/sheet'
import { useSurveyStore } from '../stores/survey'
import ActionMenu from '../ui/ActionMenu.vue'
import type { FrameSize } from '../ui/frame-size'

defineProps<{ frame: FrameSize }>()
const emit = defineEmits<{ go: [stage: StageId] }>()
const sheet = useSheetStore()
const survey = useSurveyStore()

/** Stages a check can speak for; the others show no state they do not have. */
const CHECKED: readonly StageId[] = ['ground', 'reach', 'routes', 'cast']

const NOTHING_WRONG = ', nothing wrong'
const NO_FINDINGS = {
  known: NOTHING_WRONG,
  renewed: NOTHING_WRONG,
  begun: ', being checked',
  stopped: ', not checked',
}

const stops = computed(() =>
  STAGES.map((id, i) => {
    const c = survey.counts[id]
    const blockers = c?.blocker ?? 0
    const others = (c?.warning ?? 0) + (c?.note ?? 0)
    const words =
      blockers + others > 0
        ? `, ${blockers} ${blockers === 1 ? 'blocker' : 'blockers'}, ${others} other`
        : CHECKED.includes(id)
          ? NO_FINDINGS[survey.standing]
          : ''
    return {
      id,
      number: i + 1,
      name: STAGE_NAMES[id],
      blockers,
      others,
      clean: CHECKED.includes(id) && blockers + others === 0 && NO_FINDINGS[survey.standing] === NOTHING_WRONG,
      words,
    }
  }),
)
</script>

<template>
  <nav v-if="frame === 'small'" aria-label="Stages">
    <ActionMenu
      :label="STAGE_NAMES[sheet.stage]"
      :items="
        stops.map((s) => ({
          name: s.name,
          key: s.blockers + s.others > 0 ? `${s.blockers + s.others} found · ${s.number}` : String(s.number),
          on: s.id === sheet.stage,
          run: () => emit('go', s.id),
        }))
      "
    />
  </nav>
  <nav
    v-else
    class="relative flex pt-1"
    :class="frame === 'wide' ? '[--stop:103px]' : '[--stop:84px]'"
    aria-label="Stages"
  >
    <svg
      class="pointer-events-none absolute top-[15px] left-[calc(var(--stop)/2)] h-6 w-[calc(5*var(--stop))] overflow-visible"
      viewBox="0 0 515 24"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path
        d="M0 4 Q51 -10 103 4 T206 4 T309 4 T412 4 T515 4"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.5"
        stroke-dasharray="5 4"
      />
    </svg>
    <button
      v-for="s in stops"
      :key="s.id"
      class="relative flex w-(--stop) flex-col items-center gap-[3px] rounded-sm pt-[3px] pb-1"
      :aria-current="sheet.stage === s.id ? 'step' : undefined"
      :aria-label="`${s.name}${s.words}`"
      :title="`${s.name}${s.words} (${s.number})`"
      @click="emit('go', s.id)"
    >
      <!-- The count is told in the name in words. -->
      <span
        aria-hidden="true"
        :data-count="s.blockers + s.others > 0 ? briefCount(s.blockers + s.others) : undefined"
        class="flex size-[23px] before:content-[attr(data-count)] items-center justify-center rounded-full border-2 text-[12px] font-bold"
        :class="[
          sheet.stage === s.id ? 'scale-[1.2] border-ink bg-ink text-sheet' : 'border-ink bg-sheet',
          s.blockers && sheet.stage !== s.id
            ? 'border-alarm! text-alarm'
            : s.others && sheet.stage !== s.id
              ? 'text-ochre'
              : '',
        ]"
      >
        <IconCheck v-if="s.clean" :size="13" stroke="3" :class="sheet.stage === s.id ? '' : 'text-pine'" />
      </span>
      <span class="text-[13px]" :class="sheet.stage === s.id ? 'font-bold' : 'text-faded'">{{ s.name }}</span>
    </button>
  </nav>
</template>
