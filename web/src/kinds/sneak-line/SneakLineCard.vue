<script setup lang="ts">
import type { SneakPlan } from '@tidytrail/core/insight'
import { standInIdOf } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { clock, metres, seconds } from '../../ui/figures'
import SpanList from '../watch-spot/SpanList.vue'
import WatchedCard from '../watch-spot/WatchedCard.vue'

/** A sneak line: is there a safe way along it, when, and what would widen it. */
const props = defineProps<{ id: string }>()
const levels = useLevelStore()
const line = computed(() => levels.doc.sneakLines[props.id])
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const answer = computed(() => insight.lineOf(props.id))
const nameOf = (key: number | undefined) => (key === undefined ? undefined : rehearsal.nameOf(key))
const standIn = computed(() => standInIdOf(levels.doc.spawners) !== undefined)

function go(at: number): void {
  rehearsal.playing = false
  rehearsal.seek(at)
}
const slack = (plan: SneakPlan) => (plan.slackS > (answer.value?.ofS ?? 0) ? 'never watched' : seconds(plan.slackS))
</script>

<template>
  <WatchedCard :id="id" in="sneakLines" kind="sneak line" tone="text-plum" :longest-s="answer?.figures.longestS">
    <template v-if="answer">
      <p v-if="answer.lookers === 0" class="text-faded">There is nobody whose eyes count, so every way is safe.</p>
      <div v-if="answer.best" data-testid="safe-way">
        <p class="mb-1 border-l-4 border-pine bg-tint px-2 py-1 font-bold">There is a safe way.</p>
        <dl class="grid grid-cols-2 gap-y-1 text-[13px]">
          <div>
            <dt class="label">best plan sets out</dt>
            <dd>
              <button class="font-bold underline" @click="go(answer.best.startS)">
                {{ clock(answer.best.startS) }}
              </button>
              <span class="text-faded"> takes {{ seconds(answer.best.endS - answer.best.startS) }}</span>
            </dd>
          </div>
          <div>
            <dt class="label">may be early or late by</dt>
            <dd class="font-bold">{{ slack(answer.best) }}</dd>
          </div>
          <div>
            <dt class="label">earliest start</dt>
            <dd class="font-bold">{{ answer.earliest ? clock(answer.earliest.startS) : '–' }}</dd>
          </div>
          <div>
            <dt class="label">tightest</dt>
            <dd>
              <button class="font-bold underline" @click="go(answer.best.tightest.s)">
                {{ clock(answer.best.tightest.s) }}, {{ metres(answer.best.tightest.m) }} along
              </button>
              <span v-if="nameOf(answer.best.tightest.by)" class="block truncate text-faded">
                {{ nameOf(answer.best.tightest.by) }}
              </span>
            </dd>
          </div>
        </dl>
        <button
          class="btn mt-1.5"
          :disabled="!standIn"
          :title="
            standIn
              ? 'The stand-in goes along it by this plan, from the beginning'
              : 'There is no stand-in to play it: make a spawner one in Cast'
          "
          @click="rehearsal.playPlan(line.points, answer.best)"
        >
          Play it
        </button>
      </div>
      <div v-else-if="answer.ends" data-testid="no-way">
        <p class="mb-1 border-l-4 border-alarm bg-tint px-2 py-1 font-bold">There is no safe way.</p>
        <p class="text-[13px]">
          One gets {{ metres(answer.ends.m) }} of {{ metres(answer.lengthM) }} far, and is there until
          <button class="underline" @click="go(answer.ends.s)">{{ clock(answer.ends.s) }}</button><template
            v-if="answer.ends.by.length > 0"
            >; {{ answer.ends.by.map(nameOf).join(', ') }} would see it</template
          >.
        </p>
      </div>
      <h3 class="mt-2 border-t border-rule pt-2 text-[15px]">When one may set out</h3>
      <SpanList :spans="answer.starts" :figures="answer.figures" share="of the time" />
    </template>
    <p v-else class="text-faded">
      {{ rehearsal.begun ? 'Looking …' : 'Rehearse, to see whether there is a safe way.' }}
    </p>
  </WatchedCard>
</template>
