<script setup lang="ts">
import { ref, watch } from 'vue'
import { useSheetStore } from '../../stores/sheet'
import FindingList from '../../findings/FindingList.vue'

const props = defineProps<{
  kind: string
  name: string
  tone: string
  locked?: boolean
  fixed?: boolean
  subjects?: readonly string[]
}>()
const emit = defineEmits<{ rename: [name: string] }>()
const sheet = useSheetStore()
const text = ref(props.name)
watch(
  () => props.name,
  (n) => (text.value = n),
)

function commit() {
  const name = text.value.trim()
  if (name && name !== props.name) emit('rename', name)
  else text.value = props.name
}
</script>

<template>
  <section class="panel flex max-h-full w-[282px] flex-col" aria-label="Field card">
    <header class="px-3 pt-2.5 pb-1">
      <p class="text-[13px] font-bold first-letter:uppercase" :class="tone">
        {{ kind }}<span v-if="locked" class="text-faded"> · locked</span>
      </p>
      <h2 v-if="fixed || locked" class="truncate text-[19px]" :title="name">{{ name }}</h2>
      <input
        v-else
        v-model="text"
        class="-mx-1 w-full truncate rounded-sm border border-transparent bg-transparent px-1 font-head text-[19px] font-[650] hover:border-rule"
        aria-label="Name"
        maxlength="200"
        @change="commit"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
      />
    </header>
    <div class="min-h-0 overflow-y-auto px-3 pb-3">
      <slot />
      <FindingList :subjects="subjects ?? sheet.selected" />
    </div>
    <footer v-if="$slots.foot" class="flex flex-wrap gap-2 border-t border-rule px-3 py-2"><slot name="foot" /></footer>
  </section>
</template>
