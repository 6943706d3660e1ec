<script setup lang="ts">
import {
  IconArrowBarToLeft,
  IconArrowBarToRight,
  IconMinus,
  IconPlayerPause,
  IconPlayerPlay,
  IconPlayerSkipBack,
  IconPlayerTrackNext,
  IconPlayerTrackPrev,
  IconPlus,
  IconRepeat,
  IconRotateClockwise,
  IconTableExport,
} from '@tabler/icons-vue'
import { computed } from 'vue'
import type { EventKind } from '@tidytrail/core/rehearsal'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { useLevelStore } from '../../stores/level'
import { useSurveyStore } from '../../stores/survey'
import { downloadText } from '../../ui/download'
import { clock } from '../../ui/figures'

const rehearsal = useRehearsalStore()
const survey = useSurveyStore()
const levels = useLevelStore()

const sheet = useSheetStore()
/** Moments worth a look, as ticks on the time line: who cannot go on, who is done, and what was done to the run. */
const ticks = computed(() => [
  ...rehearsal.events
    .filter((e) => e.kind in TONES)
    .map((e) => ({ share: (e.step * rehearsal.stepS) / rehearsal.seconds, tone: TONES[e.kind]! })),
  ...rehearsal.marks
    .filter((m) => m.what === 'edit')
    .map((m) => ({ share: m.t / rehearsal.seconds, tone: 'bg-ochre' })),
])
const TONES: Partial<Record<EventKind, string>> = {
  blocked: 'bg-alarm',
  'gave-up': 'bg-alarm',
  orbits: 'bg-alarm',
  finished: 'bg-pine',
  saw: 'bg-lake',
}
/** The agent whose events are gone through; everybody's while none is chosen. */
const key = computed(() => rehearsal.agents.find((m) => m.id === sheet.chosen)?.key)
function loopHere() {
  const { t } = rehearsal
  rehearsal.loop = rehearsal.loop ? undefined : { from: Math.max(0, t - 5), to: Math.min(rehearsal.seconds, t + 5) }
}
async function savePositions() {
  const csv = await survey.positions()
  if (csv) downloadText(`${levels.doc.name} places.csv`, csv, 'text/csv')
}
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col justify-center gap-2 px-3 pb-2">
    <div class="relative">
      <div class="pointer-events-none absolute inset-x-0 top-[5px] h-[7px] border border-ink">
        <div
          v-if="rehearsal.loop"
          class="absolute h-full bg-tint"
          :style="{
            left: `${(100 * rehearsal.loop.from) / rehearsal.seconds}%`,
            width: `${(100 * (rehearsal.loop.to - rehearsal.loop.from)) / rehearsal.seconds}%`,
          }"
        />
        <div class="h-full bg-rule" :style="{ width: `${(100 * rehearsal.recordedS) / (rehearsal.seconds || 1)}%` }" />
        <span
          v-for="(k, i) in ticks"
          :key="i"
          class="absolute -top-1 h-[13px] w-[2px]"
          :class="k.tone"
          :style="{ left: `${100 * k.share}%` }"
        />
      </div>
      <input
        class="relative w-full accent-rust"
        type="range"
        min="0"
        :max="rehearsal.seconds || 1"
        step="0.1"
        :value="rehearsal.t"
        :disabled="!rehearsal.begun"
        aria-label="Time in the rehearsal"
        @input="rehearsal.seek(Number(($event.target as HTMLInputElement).value))"
      />
      <div class="flex justify-between text-[11.5px] text-faded">
        <span>0:00</span><span>{{ clock(rehearsal.seconds / 2) }}</span
        ><span>{{ clock(rehearsal.seconds) }}</span>
      </div>
    </div>
    <div class="flex flex-wrap items-center gap-1.5">
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Back to the start (Home)"
        aria-label="Back to the start"
        @click="rehearsal.seek(0)"
      >
        <IconPlayerSkipBack :size="15" />
      </button>
      <button
        class="btn btn-main w-[84px] justify-center"
        title="Run or pause (K)"
        @click="rehearsal.begun ? rehearsal.playOrPause() : rehearsal.begin(levels.doc.settings.seed)"
      >
        <component :is="rehearsal.playing ? IconPlayerPause : IconPlayerPlay" :size="15" />{{
          rehearsal.playing ? 'Pause' : rehearsal.begun ? 'Run' : 'Start'
        }}
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="One step back (,)"
        aria-label="Step back"
        @click="rehearsal.stepBy(-1)"
      >
        <IconPlayerTrackPrev :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="One step on (.)"
        aria-label="Step"
        @click="rehearsal.stepBy(1)"
      >
        <IconPlayerTrackNext :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Last event (Shift ,)"
        aria-label="Last event"
        @click="rehearsal.toEvent(-1, key)"
      >
        <IconArrowBarToLeft :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Next event (Shift .)"
        aria-label="Next event"
        @click="rehearsal.toEvent(1, key)"
      >
        <IconArrowBarToRight :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Slower (J)"
        aria-label="Slower"
        @click="rehearsal.faster(-1)"
      >
        <IconMinus :size="15" />
      </button>
      <span class="w-9 text-center font-bold" aria-label="Speed of the rehearsal">×{{ rehearsal.speed }}</span>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Faster (L)"
        aria-label="Faster"
        @click="rehearsal.faster(1)"
      >
        <IconPlus :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Again with the same luck (R)"
        aria-label="Again with the same luck"
        @click="rehearsal.begin(rehearsal.seed)"
      >
        <IconRotateClockwise :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        :aria-pressed="rehearsal.loop !== undefined"
        :class="rehearsal.loop ? 'bg-tint!' : ''"
        title="Play the ten seconds about here over and over"
        aria-label="Loop"
        @click="loopHere"
      >
        <IconRepeat :size="15" />
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun || rehearsal.t >= rehearsal.recordedS"
        title="Let it happen anew from this moment, with the level as it now is"
        @click="rehearsal.goOnFromHere()"
      >
        From here
      </button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Save everybody’s places as CSV"
        aria-label="Save places as CSV"
        @click="savePositions"
      >
        <IconTableExport :size="15" />
      </button>
      <span class="ml-auto text-[13px]" data-testid="clock">
        {{ clock(rehearsal.t) }} of {{ clock(rehearsal.seconds)
        }}<span v-if="rehearsal.running" class="text-lake"> · rehearsed to {{ clock(rehearsal.recordedS) }}</span>
      </span>
    </div>
  </div>
</template>
