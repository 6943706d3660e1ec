<script setup lang="ts">
import ToastList from './ui/ToastList.vue'
import { useTheme } from './ui/theme'

useTheme()
</script>

<template>
  <RouterView />
  <ToastList />
</template>
