<script setup lang="ts">
import { placeLine, placeWords, valueWords } from '../../kinds/place-words'
import type { Aside } from '../../autosave/outbox'
import { useLevelStore } from '../../stores/level'
import AskDialog from '../../ui/AskDialog.vue'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const levels = useLevelStore()

const MOST = 4
const lines = (aside: Aside) =>
  aside.ops
    .slice(0, MOST)
    .map(
      (op) =>
        `${placeLine(levels.doc, op.path)}: ${valueWords(levels.doc, op.path, op.op === 'remove' ? undefined : op.value)}`,
    )
/** The reason, with the place in it said in words where it begins with one. */
function why(aside: Aside): string {
  const [, place, rest] = /^([a-zA-Z]+(?:\.[\w-]+)+): (.*)$/s.exec(aside.why) ?? []
  if (!place) return aside.why
  const { thing, what } = placeWords(levels.doc, place.split('.'))
  return `${thing}: ${what} ${rest}`
}
</script>

<template>
  <AskDialog
    wide
    :open="open"
    title="Changes that were set aside"
    text="The server did not take these, so they are no longer in the level. What you did after them is kept."
    @close="emit('close')"
  >
    <ul class="mt-3 max-h-[360px] overflow-y-auto border-t border-rule">
      <li v-for="aside in levels.aside" :key="aside.id" class="border-b border-rule py-2">
        <p class="font-bold">{{ aside.label }}</p>
        <p class="text-alarm">{{ why(aside) }}</p>
        <p v-for="(line, i) in lines(aside)" :key="i" class="text-[14px]">{{ line }}</p>
        <p v-if="aside.ops.length > MOST" class="label">and {{ aside.ops.length - MOST }} more places</p>
        <div class="mt-1 flex gap-2">
          <button class="btn" @click="levels.retryAside(aside.id)">Put back and try again</button>
          <button class="btn" @click="levels.letGoAside(aside.id)">Let it go</button>
        </div>
      </li>
    </ul>
    <p v-if="levels.aside.length === 0" class="mt-3">Nothing is set aside any more.</p>
    <div class="mt-4"><button class="btn btn-main" @click="emit('close')">Close</button></div>
  </AskDialog>
</template>
