<script setup lang="ts">
import { linking } from '../route/draw-options'
</script>

<template>
  <label class="row gap-1!"
    ><input v-model="linking.twoWay" type="radio" name="link-ways" class="accent-pine" :value="true" /> both ways</label
  >
  <label class="row gap-1!"
    ><input v-model="linking.twoWay" type="radio" name="link-ways" class="accent-pine" :value="false" /> one way</label
  >
</template>
