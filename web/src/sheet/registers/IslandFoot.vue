<script setup lang="ts">
import { useSheetStore } from '../../stores/sheet'

const sheet = useSheetStore()
</script>

<template>
  <button class="btn btn-main" @click="sheet.toolId = 'probe'">Probe a path</button>
  <button class="btn" @click="sheet.toolId = 'why'">Why not?</button>
</template>
