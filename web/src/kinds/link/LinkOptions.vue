<script setup lang="ts">
import { linking } from '../route/draw-options'

const WAYS = {
  fitting: { word: 'as fits', says: 'one way where lanes and circuits fork, both ways elsewhere' },
  both: { word: 'both ways', says: 'every link leads both ways' },
  one: { word: 'one way', says: 'every link leads from where it is begun' },
} as const
</script>

<template>
  <span class="text-faded">links lead</span>
  <label v-for="(way, id) in WAYS" :key="id" class="row gap-1!" :title="way.says"
    ><input v-model="linking.ways" type="radio" name="link-ways" class="accent-pine" :value="id" />
    {{ way.word }}</label
  >
</template>
