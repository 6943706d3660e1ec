<script setup lang="ts">
import { useLevelStore } from '../../stores/level'
import type { RegisterRow } from '../register'
import ProfileFigure from './ProfileFigure.vue'

defineProps<{ row: RegisterRow }>()
const levels = useLevelStore()
</script>

<template>
  <ProfileFigure v-if="levels.doc.profiles[row.id]" :profile="levels.doc.profiles[row.id]" small />
</template>
