<script setup lang="ts">
import { degrees } from '@tidytrail/core/geometry'
import { profilesOfRoute } from '@tidytrail/core/network'
import { laneNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { metres, seconds } from '../../ui/figures'
import { useRouteFacts } from './facts'

/** How long a route is, how steep, and how long it takes. */
const props = defineProps<{ id: string; more: boolean }>()
const levels = useLevelStore()
const facts = useRouteFacts(() => props.id)
const measures = computed(() => facts.value?.measures)
const profile = computed(
  () => levels.doc.profiles[facts.value?.profileId ?? profilesOfRoute(levels.doc, props.id)[0] ?? ''],
)
/** How long a lane is that no profile of the level can drive along yet. */
const laneM = computed(() => (profile.value ? undefined : laneNet(levels.doc).lanes.get(props.id)?.line.lengthM))
</script>

<template>
  <dl class="grid grid-cols-3 gap-y-1 text-[13px]">
    <div>
      <dt class="label">{{ laneM === undefined ? 'walked' : 'drawn' }}</dt>
      <dd class="font-bold">{{ measures ? metres(measures.walkedM) : laneM === undefined ? '…' : metres(laneM) }}</dd>
    </div>
    <div>
      <dt class="label">{{ profile ? `at a ${profile.gait}` : 'time' }}</dt>
      <dd class="font-bold">{{ profile && measures ? seconds(measures.timesS[profile.gait]) : '–' }}</dd>
    </div>
    <div>
      <dt class="label">climb</dt>
      <dd class="font-bold">{{ measures ? metres(measures.climbM) : '–' }}</dd>
    </div>
    <template v-if="more && measures">
      <div>
        <dt class="label">drawn</dt>
        <dd class="font-bold">{{ metres(measures.drawnM) }}</dd>
      </div>
      <div>
        <dt class="label">steepest</dt>
        <dd class="font-bold">{{ degrees(measures.steepestRad).toFixed(0) }}°</dd>
      </div>
      <div>
        <dt class="label">sharpest turn</dt>
        <dd class="font-bold">
          {{
            measures.sharpestStop < 0
              ? '–'
              : `${degrees(measures.sharpestRad).toFixed(0)}° at ${measures.sharpestStop + 1}`
          }}
        </dd>
      </div>
      <div class="col-span-3">
        <dt class="label">stops apart by</dt>
        <dd class="font-bold">
          {{ metres(measures.spacing.least) }} to {{ metres(measures.spacing.most) }},
          {{ metres(measures.spacing.mean) }} on average
        </dd>
      </div>
      <div class="col-span-3">
        <dt class="label">once, with {{ seconds(measures.pausesS) }} of pauses</dt>
        <dd class="flex flex-wrap gap-x-2.5">
          <span v-for="(s, gait) in measures.timesS" :key="gait" class="whitespace-nowrap"
            >{{ gait }} <b>{{ seconds(s) }}</b></span
          >
        </dd>
      </div>
    </template>
  </dl>
</template>
