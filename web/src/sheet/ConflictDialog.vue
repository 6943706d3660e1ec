<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useLevelStore } from '../stores/level'
import AskDialog from '../ui/AskDialog.vue'
import { toast } from '../ui/toasts'

const levels = useLevelStore()
const router = useRouter()
const busy = ref(false)

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
    :open="levels.conflict !== undefined"
    title="This level was changed elsewhere too"
    text="Another tab or another person changed the same things you did. Nothing has been overwritten. What should become of your changes?"
  >
    <div class="mt-4 flex flex-col gap-2">
      <button class="btn btn-main" :disabled="busy" @click="settle('mine')">Put my changes on top of theirs</button>
      <button class="btn" :disabled="busy" @click="settle('copy')">Keep my version as a level of its own</button>
      <button class="btn" :disabled="busy" @click="settle('theirs')">Take theirs and let mine go</button>
    </div>
  </AskDialog>
</template>
