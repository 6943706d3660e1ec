<script setup lang="ts">
import { computed } from 'vue'
import CardFrame from '../sheet/CardFrame.vue'
import { useLevelStore } from '../stores/level'
import { useSurveyStore } from '../stores/survey'
import { probe } from '../tools/probe'
import { metres, seconds } from '../ui/figures'

const levels = useLevelStore()
const survey = useSurveyStore()
const profile = computed(() => levels.doc.profiles[survey.profileId ?? ''])
const way = computed(() => (probe.answer?.way.found ? probe.answer.way : undefined))
</script>

<template>
  <CardFrame
    kind="path probe"
    :name="way ? metres(way.lengthM) : probe.answer ? 'No way' : 'From here to …'"
    fixed
    tone="text-lake"
    :subjects="[]"
  >
    <p v-if="!probe.answer" class="text-faded">
      Click where {{ profile?.name.toLowerCase() ?? 'somebody' }} should go.
    </p>
    <template v-else-if="way">
      <dl class="grid grid-cols-2 gap-y-1.5 text-[13px]">
        <div>
          <dt class="label">climb</dt>
          <dd class="font-bold">{{ metres(probe.answer.climbM) }}</dd>
        </div>
        <div>
          <dt class="label">bends</dt>
          <dd class="font-bold">{{ way.line.length - 2 }}</dd>
        </div>
        <div v-for="(speed, gait) in profile?.gaits" :key="gait">
          <dt class="label">at a {{ gait }}</dt>
          <dd class="font-bold">{{ seconds(way.lengthM / speed) }}</dd>
        </div>
      </dl>
    </template>
    <p v-else class="text-alarm">
      There is no way for {{ profile?.name.toLowerCase() }}: {{ probe.answer.why ?? 'nothing joins the two places' }}.
    </p>
  </CardFrame>
</template>
