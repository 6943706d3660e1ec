<script setup lang="ts">
import { changesProfiles, waysOf, type Finding, type Fix } from '@tidytrail/core/checks'
import { computed, onBeforeUnmount, ref } from 'vue'
import { useSurveyStore } from '../stores/survey'
import { endPreview, mend, previewFix } from './mend'

/** The ways out of a finding that have been tried and help: the first as a button, the others when asked for. */
const props = defineProps<{ finding: Finding }>()
const survey = useSurveyStore()
const open = ref(false)
const looking = ref(false)
const ways = computed(() => survey.offersOf(props.finding))
/** Some ways take long to try; they are not tried before somebody asks. */
const more = computed(() => waysOf(props.finding).some(changesProfiles))
/** Nothing is offered before it has been tried; that is said, so that nobody takes it for nothing. */
const untried = computed(() => waysOf(props.finding).length > 0 && !survey.isTried(props.finding))
const shown = computed(() => (open.value ? ways.value : ways.value.slice(0, 1)))

async function lookForMore() {
  open.value = true
  if (!more.value) return
  looking.value = true
  await survey.tryAllWays(props.finding)
  looking.value = false
}
const preview = (fix: Fix) => ({
  onMouseenter: () => previewFix(fix),
  onMouseleave: endPreview,
  onFocus: () => previewFix(fix),
  onBlur: endPreview,
})
onBeforeUnmount(endPreview)
</script>

<template>
  <button
    v-for="fix in shown"
    :key="fix.label"
    class="btn text-left text-[13px]"
    v-bind="preview(fix)"
    @click="mend(finding, fix)"
  >
    {{ fix.label }}
  </button>
  <span v-if="untried" class="text-[12.5px] text-faded">Trying what helps …</span>
  <span v-else-if="looking" class="text-[12.5px] text-faded" role="status">Trying other ways …</span>
  <button v-else-if="!open && (ways.length > 1 || more)" class="btn-quiet" @click="lookForMore">Other ways …</button>
</template>
