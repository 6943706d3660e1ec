<script setup lang="ts">
import type { Component } from 'vue'

/** A quiet button that is a picture alone. Its label is what it is called; its tip may say more, a key above all. */
withDefaults(
  defineProps<{ icon: Component; label: string; tip?: string; pressed?: boolean; disabled?: boolean; size?: number }>(),
  { tip: undefined, pressed: undefined, size: 18 },
)
</script>

<template>
  <button class="btn-quiet" :aria-label="label" :title="tip ?? label" :aria-pressed="pressed" :disabled="disabled">
    <component :is="icon" :size="size" />
  </button>
</template>
