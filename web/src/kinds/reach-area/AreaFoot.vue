<script setup lang="ts">
import { useSheetStore } from '../../stores/sheet'

const sheet = useSheetStore()
</script>

<template><button class="btn btn-main" @click="sheet.toolId = 'area'">Draw an area</button></template>
