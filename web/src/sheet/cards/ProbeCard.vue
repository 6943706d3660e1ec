<script setup lang="ts">
import { addThing, passageSchema } from '@tidytrail/core/level'
import { computed, watch } from 'vue'
import CardFrame from '../../kinds/card/CardFrame.vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSurveyStore } from '../../stores/survey'
import { bendsOf } from '@tidytrail/core/reach'
import { askAgain, probe } from '../../tools/probe'
import { PASSAGE_WORDS } from '../../kinds/passage/draw-passage'
import { passageOf } from '../../kinds/passage/suggestion'
import { metres, seconds } from '../../ui/figures'

const levels = useLevelStore()
const survey = useSurveyStore()
const profile = computed(() => levels.doc.profiles[survey.profileId ?? ''])
const path = computed(() => (probe.answer?.path.found ? probe.answer.path : undefined))
const help = computed(() => probe.answer?.help)
const passages = computed(
  () => path.value?.uses.map((u) => levels.doc.passages[u.passageId]?.name || PASSAGE_WORDS[u.kind]) ?? [],
)

/** What the helping passage would span, in words. */
const span = computed(() => {
  const h = help.value
  if (!h) return ''
  const rise = Math.abs(h.riseM) < 0.01 ? 'level' : `${h.riseM > 0 ? 'up' : 'down'} ${metres(Math.abs(h.riseM))}`
  return `${metres(h.widthM)} across, ${rise}`
})
function add() {
  if (!help.value) return
  const thing = passageSchema.parse(passageOf(levels.doc, help.value))
  levels.perform(addThing, { in: 'passages', id: randomId('passages'), thing })
}
// The way may change with the level and with who is asked about.
watch([() => survey.upToDate, () => survey.profileId], () => askAgain())
</script>

<template>
  <CardFrame
    kind="path probe"
    :name="path ? metres(path.lengthM) : probe.answer ? 'No way' : 'From here to …'"
    fixed
    tone="text-lake"
    :subjects="[]"
  >
    <p v-if="!probe.answer" class="text-faded">
      Click where {{ profile?.name.toLowerCase() ?? 'somebody' }} should go.
    </p>
    <template v-else-if="path">
      <dl class="grid grid-cols-2 gap-y-1.5 text-[13px]">
        <div>
          <dt class="label">climb</dt>
          <dd class="font-bold">{{ metres(probe.answer.climbM) }}</dd>
        </div>
        <div>
          <dt class="label">bends</dt>
          <dd class="font-bold">{{ bendsOf(path.line, profile?.radiusM ?? 0) }}</dd>
        </div>
        <div v-for="(time, gait) in probe.answer.times" :key="gait">
          <dt class="label">at a {{ gait }}</dt>
          <dd class="font-bold">{{ seconds(time) }}</dd>
        </div>
      </dl>
      <p v-if="passages.length > 0" class="mt-2 text-[13px]">Through {{ passages.join(', ') }}.</p>
    </template>
    <template v-else>
      <p class="text-alarm">
        There is no way for {{ profile?.name.toLowerCase() }}: {{ probe.answer.why ?? 'nothing joins the two places' }}.
      </p>
      <template v-if="help">
        <p class="mt-2 text-[13px]">
          <template v-if="help.kind === 'jump' || help.kind === 'drop'"
            >It could {{ help.kind }} where the two sides come nearest</template
          >
          <template v-else
            >It can neither jump nor drop there. A {{ help.kind }} would join them where they come nearest</template
          >
          ({{ span }}).
        </p>
        <button class="btn btn-main mt-2" @click="add">Add this {{ help.kind }}</button>
      </template>
    </template>
  </CardFrame>
</template>
