<script setup lang="ts">
import { useSheetStore } from '../../stores/sheet'

const sheet = useSheetStore()
</script>

<template>
  <section class="panel w-[236px] p-3" aria-label="Sign-off">
    <h2 class="mb-1 text-[17px]">Sign-off</h2>
    <p class="text-[13px] text-faded">
      Here the sheet of proofs will be: every route and agent against the checks and rehearsals, waivers with their
      reasons, ready to print, and the hand-over to the game. It has no tools yet.
    </p>
    <p class="mt-2 text-[13px] text-faded">
      Until then, the verdicts are in Rehearse, and the level file can be exported from the menu.
    </p>
    <button class="btn mt-2" @click="sheet.stage = 'rehearse'">Go to Rehearse</button>
  </section>
</template>
