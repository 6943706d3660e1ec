<script setup lang="ts">
defineProps<{ tabs: readonly { id: string; name: string; count: number }[]; chosen: string }>()
const emit = defineEmits<{ choose: [id: string] }>()
</script>

<template>
  <div class="mb-1.5 flex flex-wrap gap-x-2.5 gap-y-0.5 text-[13px]" role="tablist">
    <button
      v-for="t in tabs"
      :key="t.id"
      role="tab"
      :aria-selected="t.id === chosen"
      :class="t.id === chosen ? 'font-bold underline decoration-rust decoration-2 underline-offset-4' : 'text-faded'"
      @click="emit('choose', t.id)"
    >
      {{ t.name }} <span class="text-[11.5px]">{{ t.count }}</span>
    </button>
  </div>
</template>
