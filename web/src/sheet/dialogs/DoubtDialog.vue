<script setup lang="ts">
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import AskDialog from '../../ui/AskDialog.vue'
import ClashList from './ClashList.vue'

const levels = useLevelStore()
const verb = computed(() => (levels.doubt?.how === 'redo' ? 'Redo' : 'Undo'))
</script>

<template>
  <AskDialog
    wide
    :open="levels.doubt !== undefined"
    :title="`${verb} over what others changed?`"
    :text="`Since “${levels.doubt?.label ?? ''}”, somebody else has changed what this would write.`"
    @close="levels.settleDoubt('leave')"
  >
    <ClashList
      v-if="levels.level && levels.doubt"
      :clashes="levels.doubt.clashes"
      :mine="`${verb} sets`"
      theirs="It is now"
    />
    <div class="mt-4 flex flex-wrap gap-2">
      <button class="btn btn-main" @click="levels.settleDoubt('leave')">Leave it as it is</button>
      <button class="btn" @click="levels.settleDoubt('do')">{{ verb }} all the same</button>
      <button class="btn" @click="levels.settleDoubt('skip')">Pass this step over</button>
    </div>
  </AskDialog>
</template>
