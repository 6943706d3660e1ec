<script setup lang="ts">
import { useSheetStore } from '../../stores/sheet'
import SuggestBar from './SuggestBar.vue'

const sheet = useSheetStore()
</script>

<template>
  <button class="btn" @click="sheet.toolId = 'passage'">Draw one</button>
  <SuggestBar />
</template>
