<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useLevelStore } from '../../stores/level'
import AskDialog from '../../ui/AskDialog.vue'
import { toast } from '../../ui/toasts'
import ClashList from './ClashList.vue'

const levels = useLevelStore()
const router = useRouter()
const busy = ref(false)

const text = computed(() =>
  levels.conflict?.length
    ? 'Another tab or another person changed the same things you did. Nothing has been overwritten. What should become of your changes?'
    : 'This level was changed elsewhere so much that it cannot be told whether it was the same things. Nothing has been overwritten. What should become of your changes?',
)

async function settle(how: 'mine' | 'theirs' | 'copy') {
  busy.value = true
  try {
    const copy = await levels.resolveConflict(how)
    if (copy) await router.push(`/levels/${copy}/routes`)
  } catch (error) {
    toast((error as Error).message, { kind: 'alarm' })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AskDialog
    wide
    :open="levels.conflictShown"
    title="This level was changed elsewhere too"
    :text="text"
    @close="levels.conflictShown = false"
  >
    <ClashList v-if="levels.level" :clashes="levels.conflict ?? []" mine="Yours" theirs="Theirs" />
    <div class="mt-4 flex flex-wrap gap-2">
      <button class="btn btn-main" :disabled="busy" @click="settle('mine')">Put my changes on top of theirs</button>
      <button class="btn" :disabled="busy" @click="settle('theirs')">Take theirs and let mine go</button>
      <button class="btn" :disabled="busy" @click="settle('copy')">Keep my version as a level of its own</button>
      <button class="btn-quiet" :disabled="busy" @click="levels.conflictShown = false">Decide later</button>
    </div>
    <p class="label mt-2">Until you decide, your changes wait in this browser; what you go on doing waits with them.</p>
  </AskDialog>
</template>
