<script setup lang="ts">
import {
  IconPlayerPause,
  IconPlayerPlay,
  IconPlayerSkipBack,
  IconPlayerSkipForward,
  IconRotateClockwise,
} from '@tabler/icons-vue'
import { computed } from 'vue'
import { useRehearsalStore } from '../../stores/rehearsal'
import { clock } from '../../ui/figures'

const rehearsal = useRehearsalStore()

/** Moments when somebody arrived somewhere, as ticks on the time line. */
const ticks = computed(() =>
  Object.values(rehearsal.events)
    .flat()
    .filter((e) => e.kind === 'blocked' || e.kind === 'finished')
    .map((e) => ({ share: e.t / rehearsal.seconds, bad: e.kind === 'blocked' })),
)
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col justify-center gap-2 px-3 pb-2">
    <div class="relative">
      <div class="pointer-events-none absolute inset-x-0 top-[5px] h-[7px] border border-ink">
        <div class="h-full bg-rule" :style="{ width: `${(100 * rehearsal.recordedS) / (rehearsal.seconds || 1)}%` }" />
        <span
          v-for="(k, i) in ticks"
          :key="i"
          class="absolute -top-1 h-[13px] w-[2px]"
          :class="k.bad ? 'bg-alarm' : 'bg-pine'"
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
    <div class="flex flex-wrap items-center gap-2">
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
        class="btn btn-main w-[86px] justify-center"
        :disabled="!rehearsal.begun"
        title="Run or pause (K)"
        @click="rehearsal.playOrPause()"
      >
        <component :is="rehearsal.playing ? IconPlayerPause : IconPlayerPlay" :size="15" />{{
          rehearsal.playing ? 'Pause' : 'Run'
        }}
      </button>
      <button class="btn" :disabled="!rehearsal.begun" title="One step on (.)" @click="rehearsal.stepBy(1)">
        <IconPlayerSkipForward :size="15" />Step
      </button>
      <button class="btn" :disabled="!rehearsal.begun" title="Slower (J)" @click="rehearsal.faster(-1)">Slower</button>
      <span class="w-10 text-center font-bold" aria-label="Speed of the rehearsal">×{{ rehearsal.speed }}</span>
      <button class="btn" :disabled="!rehearsal.begun" title="Faster (L)" @click="rehearsal.faster(1)">Faster</button>
      <button
        class="btn"
        :disabled="!rehearsal.begun"
        title="Again with the same seed (R)"
        aria-label="Again with the same seed"
        @click="rehearsal.begin(rehearsal.seed)"
      >
        <IconRotateClockwise :size="15" />
      </button>
      <span class="ml-auto text-[13px]" data-testid="clock">
        {{ clock(rehearsal.t) }} of {{ clock(rehearsal.seconds)
        }}<span v-if="rehearsal.running" class="text-lake"> · rehearsed to {{ clock(rehearsal.recordedS) }}</span>
      </span>
    </div>
  </div>
</template>
