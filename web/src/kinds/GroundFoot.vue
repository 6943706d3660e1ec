<script setup lang="ts">
import { useSheetStore } from '../stores/sheet'

/** What the lists of the ground have in common. */
const sheet = useSheetStore()
</script>

<template>
  <button class="btn btn-main" @click="sheet.importing = true">Import …</button>
  <button class="btn" @click="sheet.settingUp = true">The sheet …</button>
</template>
