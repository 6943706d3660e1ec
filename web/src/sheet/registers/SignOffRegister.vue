<script setup lang="ts">
import { ref } from 'vue'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import ProofDialog from '../dialogs/ProofDialog.vue'

const sheet = useSheetStore()
const rehearsal = useRehearsalStore()
const open = ref(false)
</script>

<template>
  <section class="panel w-[236px] p-3" aria-label="Sign-off">
    <h2 class="mb-1 text-[17px]">Sign-off</h2>
    <p class="text-[13px] text-faded">
      The sheet lays every route and agent against what must be so: it connects, can be reached and travelled, is
      followed, with its pauses, and nobody gets stuck. Each cell leads to what says so.
    </p>
    <p v-if="!rehearsal.begun" class="mt-2 text-[13px] text-ochre">Nothing is rehearsed yet: half of it is open.</p>
    <div class="mt-2 flex flex-wrap gap-1.5">
      <button class="btn btn-main" @click="open = true">Open the sheet</button>
      <button class="btn" @click="sheet.stage = 'rehearse'">Go to Rehearse</button>
    </div>
    <ProofDialog :open="open" @close="open = false" />
  </section>
</template>
