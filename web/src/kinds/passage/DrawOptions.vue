<script setup lang="ts">
import { PASSAGE_KINDS, type Passage } from '@tidytrail/core/level'
import { PASSAGE_WORDS, passageBrush } from './draw-passage'
</script>

<template>
  <label v-for="k in PASSAGE_KINDS" :key="k" class="row gap-1!">
    <input
      v-model="passageBrush.kind"
      type="radio"
      name="passage-kind"
      class="accent-pine"
      :value="k as Passage['kind']"
    />
    {{ PASSAGE_WORDS[k] }}
  </label>
</template>
