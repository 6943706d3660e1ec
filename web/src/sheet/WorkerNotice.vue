<script setup lang="ts">
import { useInsightStore } from '../stores/insight'
import { useRehearsalStore } from '../stores/rehearsal'
import { useSurveyStore } from '../stores/survey'

/** Says that something that works in the background has failed, and how to go on. */
const survey = useSurveyStore()
const rehearsal = useRehearsalStore()
const insight = useInsightStore()
</script>

<template>
  <div
    v-if="survey.failed"
    class="panel pointer-events-auto flex w-full items-center gap-3 border-alarm! px-3 py-2 text-[13px]"
    role="alert"
  >
    <p>
      <b class="text-alarm">The survey has stopped:</b> {{ survey.failed }}. Reach and findings are those from before;
      the level itself is safe.
    </p>
    <button class="btn ml-auto shrink-0" @click="survey.restart()">Start it again</button>
  </div>
  <div
    v-if="rehearsal.failed"
    class="panel pointer-events-auto flex w-full items-center gap-3 border-alarm! px-3 py-2 text-[13px]"
    role="alert"
  >
    <p>
      <b class="text-alarm">The rehearsal has stopped:</b> {{ rehearsal.failed }}. What was recorded until then stays.
    </p>
    <button class="btn ml-auto shrink-0" @click="rehearsal.begin(rehearsal.seed)">Begin again</button>
  </div>
  <div
    v-if="insight.failed"
    class="panel pointer-events-auto flex w-full items-center gap-3 border-alarm! px-3 py-2 text-[13px]"
    role="alert"
  >
    <p>
      <b class="text-alarm">What finds windows and trials has stopped:</b> {{ insight.failed }}. The rehearsal itself
      goes on.
    </p>
    <button class="btn ml-auto shrink-0" @click="insight.restart()">Start it again</button>
  </div>
</template>
