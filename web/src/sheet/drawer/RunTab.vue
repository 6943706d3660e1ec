<script setup lang="ts">
import {
  IconArrowBarToLeft,
  IconArrowBarToRight,
  IconDeviceFloppy,
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
import { computed, type Component } from 'vue'
import { writeLevelFile } from '@tidytrail/core/level'
import type { EventKind } from '@tidytrail/core/rehearsal'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { useLevelStore } from '../../stores/level'
import { useInsightStore } from '../../stores/insight'
import { useSurveyStore } from '../../stores/survey'
import { useAssetStore } from '../../stores/assets'
import { downloadText } from '../../ui/download'
import { toast } from '../../ui/toasts'
import { clock } from '../../ui/figures'

const rehearsal = useRehearsalStore()
const survey = useSurveyStore()
const insight = useInsightStore()
const levels = useLevelStore()
const assets = useAssetStore()

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
const key = computed(() => rehearsal.agents[rehearsal.placeOf(sheet.chosen ?? '')]?.key)
function loopHere() {
  const { t } = rehearsal
  rehearsal.loop = rehearsal.loop ? undefined : { from: Math.max(0, t - 5), to: Math.min(rehearsal.seconds, t + 5) }
}
async function savePositions() {
  const csv = await insight.positions()
  if (csv) downloadText(`${levels.doc.name} places.csv`, csv, 'text/csv')
}

async function saveRun() {
  const level = rehearsal.of
  const script = await survey.script()
  // What was imported while it ran is in its edits.
  const inside = level && assets.inside(level, levels.doc)
  if (!level || !script) return
  if (!inside) return toast('What was imported is still being fetched; try again in a moment.')
  downloadText(`${level.name} run.tidytrail.json`, writeLevelFile(level, inside, script))
}

interface Control {
  label: string
  title?: string
  icon?: Component
  run: () => void
  /** Is it of no use just now? Is what it does going on? */
  off?: boolean
  on?: boolean
}
/** The buttons in their order; running and pausing, and the speed, stand between them. */
const controls = computed<Control[]>(() => [
  {
    label: 'Back to the start',
    title: 'Back to the start (Home)',
    icon: IconPlayerSkipBack,
    run: () => rehearsal.seek(0),
  },
  { label: 'Step back', title: 'One step back (,)', icon: IconPlayerTrackPrev, run: () => rehearsal.stepBy(-1) },
  { label: 'Step', title: 'One step on (.)', icon: IconPlayerTrackNext, run: () => rehearsal.stepBy(1) },
  {
    label: 'Last event',
    title: 'Last event (Shift ,)',
    icon: IconArrowBarToLeft,
    run: () => rehearsal.toEvent(-1, key.value),
  },
  {
    label: 'Next event',
    title: 'Next event (Shift .)',
    icon: IconArrowBarToRight,
    run: () => rehearsal.toEvent(1, key.value),
  },
  { label: 'Slower', title: 'Slower (J)', icon: IconMinus, run: () => rehearsal.faster(-1) },
  { label: 'Faster', title: 'Faster (L)', icon: IconPlus, run: () => rehearsal.faster(1) },
  {
    label: 'Again with the same luck',
    title: 'Again with the same luck (R)',
    icon: IconRotateClockwise,
    run: () => rehearsal.begin(rehearsal.seed),
  },
  {
    label: 'Loop',
    title: 'Play the ten seconds about here over and over',
    icon: IconRepeat,
    run: loopHere,
    on: rehearsal.loop !== undefined,
  },
  {
    label: 'From here',
    title: 'Let it happen anew from this moment, with the level as it now is',
    run: () => rehearsal.goOnFromHere(),
    off: rehearsal.t >= rehearsal.recordedS || rehearsal.kept !== undefined,
  },
  { label: 'Save places as CSV', icon: IconTableExport, run: () => void savePositions() },
  {
    label: 'Save this run',
    title:
      'Save the level as it was at the start, with all that was done to the run: it can be repeated to the last bit',
    icon: IconDeviceFloppy,
    // One that is shown as it was kept is a file of its own.
    off: rehearsal.kept !== undefined,
    run: () => void saveRun(),
  },
])
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
        <span>0:00</span>
        <span class="text-[13px] text-ink" data-testid="clock">
          {{ clock(rehearsal.t) }} of {{ clock(rehearsal.seconds)
          }}<span v-if="rehearsal.running" class="text-lake"> · rehearsed to {{ clock(rehearsal.recordedS) }}</span>
        </span>
        <span>{{ clock(rehearsal.seconds) }}</span>
      </div>
    </div>
    <div class="flex flex-wrap items-center gap-1">
      <template v-for="c in controls" :key="c.label">
        <span v-if="c.label === 'Faster'" class="w-9 text-center font-bold" aria-label="Speed of the rehearsal"
          >×{{ rehearsal.speed }}</span
        >
        <button
          class="btn"
          :class="c.on ? 'bg-tint!' : ''"
          :disabled="!rehearsal.begun || c.off"
          :title="c.title ?? c.label"
          :aria-label="c.label"
          :aria-pressed="c.on"
          @click="c.run"
        >
          <component :is="c.icon" v-if="c.icon" :size="15" />
          <template v-else>{{ c.label }}</template>
        </button>
        <button
          v-if="c.label === 'Back to the start'"
          class="btn btn-main w-[84px] justify-center"
          title="Run or pause (K)"
          @click="rehearsal.playOrPause()"
        >
          <component :is="rehearsal.playing ? IconPlayerPause : IconPlayerPlay" :size="15" />{{
            rehearsal.playing ? 'Pause' : rehearsal.begun ? 'Run' : 'Start'
          }}
        </button>
      </template>
    </div>
  </div>
</template>
